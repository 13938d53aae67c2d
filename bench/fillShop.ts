import { createProduct } from '../apps/server/src/catalog/service';
import { selling } from '../apps/server/test/support/products';
import { type TestServices, testServices } from '../apps/server/test/support/services';

export const SIZES = { orders: 50_000, contacts: 50_000, products: 5000 };

/** Numbers from 1 on, as a table. */
const numbers = (count: number) => `WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${count})`;

/** Writes contacts with an order each, as many as are asked for. */
export function fillPeople(run: (statement: string) => unknown, { orders, contacts }: { orders: number; contacts: number }): void {
  run(`
    INSERT INTO contacts (id, email, first_name, last_name, country, answers, orders, paid, created_at, updated_at)
    ${numbers(contacts)} SELECT printf('con_%012d', i), printf('person%d@moonmail.test', i), 'Ilse', 'Vos', 'NL', '{}', 1, 2400, 1700000000000 + i * 1000, 0 FROM n`);
  run(`
    INSERT INTO orders (id, number, state, mode, funnel_id, step_id, cart_id, contact_id, currency, total, tax, net_goods, buyer, email, first_name, goods, token, created_at, paid_at)
    ${numbers(orders)} SELECT printf('ord_%012d', i), 1000000 + i, 'paid', 'live', 'fun_000000000001', 'stp_000000000001', printf('crt_%012d', i), printf('con_%012d', i),
      'EUR', 2400, 449, 1951, '{"country":"NL"}', printf('person%d@moonmail.test', i), 'Ilse', 'Star chart', printf('token%d', i), 1700000000000 + i * 1000, 1700000000000 + i * 1000 FROM n`);
}

/** A shop with as much in its lists as a busy one has after some years. */
export function filledShop(): TestServices {
  const services = testServices();
  const { db } = services;
  const product = createProduct(services, selling('Star chart', { kind: 'one-time', regular: 2400 }, { tags: ['sky'], categories: ['Prints'] }));
  fillPeople((statement) => db.run(statement), SIZES);
  const columns =
    'label, description, included, kind, tax_class, status, picture_ids, preview_url, refund_policy, contact_email, confirmation, buy_again, alone, categories, tags, bundle, delivery, lead_to';
  db.run(`
    INSERT INTO products (id, name, ${columns}, editions, created_at, updated_at)
    ${numbers(SIZES.products - 1)} SELECT printf('prd_%012d', i), 'Star chart ' || i, ${columns}, replace(editions, '${product.editions[0]?.id}', printf('edn_%012d', i)), 1700000000000 + i, 0
    FROM n, (SELECT * FROM products LIMIT 1)`);
  return services;
}
