import type { Behind } from '@ruta/core/reports';
import { sql } from 'drizzle-orm';

/** An order behind a row of a report. */
export type OrderBehind = Behind['orders'][number];

/** What is shown of it, beside what of it counts; `o` stands for orders. */
export const BEHIND_COLUMNS = sql`o.id, o.number, o.paid_at AS paidAt,
  trim(o.first_name || ' ' || coalesce(json_extract(o.buyer, '$.lastName'), '')) AS name, o.email, o.contact_id AS contactId, o.goods`;
