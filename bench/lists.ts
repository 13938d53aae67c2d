import path from 'node:path';
import { ProductListQuerySchema, ProductPageSchema } from '@ruta/core/catalog';
import { ContactListQuerySchema, ContactPageSchema } from '@ruta/core/contacts';
import { OrderListQuerySchema, OrderPageSchema } from '@ruta/core/orders';
import Database from 'better-sqlite3';
import { listProductRows } from '../apps/server/src/catalog/list';
import { listContacts } from '../apps/server/src/facts/contactsWho';
import { listOrders } from '../apps/server/src/orders/list';
import { filledShop } from './fillShop';
import { inPairs, type Measurement, microseconds } from './measure';

const PAIRS = 21;
const CALLS = 10;

/** The first page of orders, contacts and products as the studio gets them, against one indexed page of the same columns each. */
export async function listsBench(): Promise<Measurement> {
  const services = filledShop();
  const raw = new Database(path.join(services.config.dataDir, 'shop.sqlite'), { readonly: true });
  try {
    const bare = [
      'SELECT id, number, paid_at, first_name, email, goods, (SELECT name FROM funnels WHERE id = funnel_id), total, currency, mode FROM orders WHERE paid_at IS NOT NULL AND number IS NOT NULL ORDER BY paid_at DESC, id DESC LIMIT 100',
      'SELECT id, email, first_name, last_name, country, created_at, orders, paid FROM contacts ORDER BY created_at DESC, id DESC LIMIT 100',
      'SELECT id, name, label, kind, status, categories, tags, archived_at, created_at, picture_ids, editions, bundle, (SELECT count(*) FROM product_files WHERE product_id = products.id) FROM products WHERE archived_at IS NULL ORDER BY created_at DESC, id DESC LIMIT 100',
    ].map((text) => raw.prepare(text));
    const ours = () => {
      JSON.stringify(OrderPageSchema.parse(listOrders(services.db, OrderListQuerySchema.parse({}))));
      JSON.stringify(ContactPageSchema.parse(listContacts(services, ContactListQuerySchema.parse({}))));
      JSON.stringify(ProductPageSchema.parse(listProductRows(services, ProductListQuerySchema.parse({}))));
    };
    return await inPairs(
      'lists',
      'µs',
      PAIRS,
      () => microseconds(ours, CALLS),
      () => microseconds(() => void bare.map((statement) => JSON.stringify(statement.all())), CALLS),
    );
  } finally {
    raw.close();
    services.end();
  }
}
