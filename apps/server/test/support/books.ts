import Database from 'better-sqlite3';
import type { Buyer } from './clients';
import type { Installation } from './installation';

/** What a shop has written of its orders, straight from its database, and what an offer's page asks. */
export function booksOf(installation: () => Installation) {
  const read = <T>(sql: string, ...values: unknown[]): T[] => {
    const db = new Database(`${installation().data}/shop.sqlite`, { readonly: true });
    const rows = db.prepare(sql).all(...values) as T[];
    db.close();
    return rows;
  };
  return {
    read,
    linesOf: (email: string) =>
      read<{ role: string; name: string; total: number }>(
        'select l.role, l.name, l.total from order_lines l join orders o on o.id = l.order_id where o.email = ? and l.total > 0 order by l.rowid',
        email,
      ),
    chargesOf: (email: string) =>
      read<{ amount: number; state: string }>(
        'select c.amount, c.state from charges c join orders o on o.id = c.order_id where o.email = ? order by c.rowid',
        email,
      ),
    /** What an offer's form holds now. */
    async formAt(buyer: Buyer, at: string): Promise<Record<string, string>> {
      const html = await buyer.visit(at.replace(installation().site, ''));
      const value = (name: string) => new RegExp(`name="${name}" value="([^"]*)"`).exec(html)?.[1] ?? '';
      return { order: value('order'), offer: value('offer'), shown: value('shown'), answer: 'yes' };
    },
  };
}
