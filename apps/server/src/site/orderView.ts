import type { OrderView, PageContext } from '@ruta/pages';
import { and, eq } from 'drizzle-orm';
import { keysOf } from '../catalog/keys';
import { findProducts } from '../catalog/store';
import { confirmationOf, findOrderByToken, grantsOf, linesOf, type OrderRow } from '../sales/store';
import { orders } from '../sales/tables';
import type { Services } from '../services';
import { downloadLink } from './links';

/** How long a buyer's order page can be opened by its address. */
const ORDER_PAGE_MS = 90 * 24 * 60 * 60 * 1000;

/** The paid order that a token stands for; undefined if there is none or its address has ended. */
export function orderByToken(services: Services, token: unknown): OrderRow | undefined {
  if (typeof token !== 'string' || token.length < 16) return undefined;
  const order = findOrderByToken(services.db, token);
  return order?.paidAt && order.paidAt + ORDER_PAGE_MS > services.clock.now() ? order : undefined;
}

/** An order as its buyer sees it, with fresh links to its files and to those of gifts from the same funnel. */
export function orderView(services: Services, order: OrderRow): Pick<PageContext, 'order' | 'buyer'> {
  const { db } = services;
  const related = order.contactId
    ? db
        .select({ id: orders.id, number: orders.number })
        .from(orders)
        .where(and(eq(orders.contactId, order.contactId), eq(orders.funnelId, order.funnelId), eq(orders.state, 'paid')))
        .all()
        .filter((other) => other.number === null)
        .map((other) => other.id)
    : [];
  const view: OrderView = {
    number: order.number === null ? '' : String(order.number),
    quote: order.quote,
    downloads: grantsOf(db, [...new Set([order.id, ...related])])
      // What was just bought stands first, gifts after it.
      .sort((a, b) => Number(b.orderId === order.id) - Number(a.orderId === order.id))
      .map((grant) => ({
        name: grant.name,
        size: formatBytes(grant.bytes),
        url: downloadLink(services, grant.id, 'page'),
        from: grant.from,
      })),
    ...received(services, order),
  };
  return { order: view, buyer: { firstName: order.buyer.firstName } };
}

/** What an order brings besides files: links, licence keys, and the products' own words. */
export function received(services: Pick<Services, 'db'>, order: Pick<OrderRow, 'id'>): Pick<OrderView, 'links' | 'keys' | 'confirmations' | 'contacts'> {
  const { db } = services;
  const lines = linesOf(db, order.id);
  const products = new Map(findProducts(db, [...new Set(lines.map((line) => line.productId))]).map((product) => [product.id, product]));
  const nameOf = (productId: string) => products.get(productId)?.name ?? '';
  return {
    links: [...products.values()].flatMap(({ name, delivery: { link, course } }) => [
      ...(link ? [{ words: link.words || 'Open it', url: link.url, from: name }] : []),
      ...(course ? [{ words: `Go to the course`, url: course.url, from: name }] : []),
    ]),
    contacts: [...products.values()].flatMap(({ name, contactEmail }) => (contactEmail ? [{ name, email: contactEmail }] : [])),
    keys: keysOf(db, order.id).map((key) => ({ value: key.value, from: nameOf(key.productId) })),
    confirmations: lines.flatMap((line) => {
      const product = products.get(line.productId);
      const confirmation = product && line.partOf === null ? confirmationOf(product, line.priceId) : undefined;
      return confirmation?.kind === 'page' && (confirmation.text || confirmation.buttonUrl) ? [confirmation] : [];
    }),
  };
}

/** The outside address that the main product sends its buyers to; undefined if it has none. */
export function outsideAddress(services: Pick<Services, 'db'>, order: Pick<OrderRow, 'id'>): string | undefined {
  const main = linesOf(services.db, order.id).find((line) => line.role === 'main' && line.partOf === null);
  const product = main && findProducts(services.db, [main.productId])[0];
  const confirmation = main && product ? confirmationOf(product, main.priceId) : undefined;
  return confirmation?.kind === 'address' ? confirmation.url : undefined;
}

const BYTES_PER_UNIT = 1024;

/** A file's size for people: `3.2 MB`. */
export function formatBytes(bytes: number): string {
  const units = ['bytes', 'KB', 'MB', 'GB'];
  let size = bytes;
  let unit = 0;
  while (size >= BYTES_PER_UNIT && unit < units.length - 1) {
    size /= BYTES_PER_UNIT;
    unit++;
  }
  return `${unit === 0 || size >= 100 ? Math.round(size) : size.toFixed(1)} ${units[unit]}`;
}
