import { writeCsv } from '@ruta/core/formats';
import { toLocalTime } from '@ruta/core/shop';
import { desc, eq } from 'drizzle-orm';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { consents, consentWordings, visitors } from '../tracking/tables';
import { contacts } from './tables';

const PROOF = {
  id: consents.id,
  visitorId: consents.visitorId,
  at: consents.at,
  statistics: consents.statistics,
  marketing: consents.marketing,
  wording: consents.wording,
  page: consents.page,
  email: contacts.email,
};

/** Every answer that was given, newest first, with whose it is if they left an address since. */
export function proofs({ db }: Pick<Services, 'db'>, limit?: number) {
  const query = db
    .select(PROOF)
    .from(consents)
    .leftJoin(visitors, eq(visitors.id, consents.visitorId))
    .leftJoin(contacts, eq(contacts.id, visitors.contactId))
    .orderBy(desc(consents.at), desc(consents.id));
  return limit === undefined ? query.all() : query.limit(limit).all();
}

/** Every answer as a file, with the words that were answered. */
export function consentsCsv({ db }: Pick<Services, 'db'>): string {
  const { timeZone } = loadShop(db).settings;
  const wordings = new Map(
    db
      .select()
      .from(consentWordings)
      .all()
      .map(({ id, settings }) => [id, settings]),
  );
  const yes = (agreed: boolean) => (agreed ? 'yes' : 'no');
  return writeCsv(
    ['when', 'visitor', 'email', 'page', 'statistics', 'marketing', 'title', 'text', 'told'],
    proofs({ db }).map(({ at, visitorId, email, page, statistics, marketing, wording }) => [
      toLocalTime(at, timeZone),
      visitorId,
      email ?? '',
      page,
      yes(statistics),
      yes(marketing),
      wordings.get(wording)?.title ?? '',
      wordings.get(wording)?.text ?? '',
      wordings.get(wording)?.told ?? '',
    ]),
  );
}
