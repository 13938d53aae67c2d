import type { PageDocument, StepPage } from '@ruta/core/page';
import type { Unsaved } from './unsaved';

/** Whether two pages read the same, whatever the order in which their parts were written. */
export function isSamePage(one: PageDocument, other: PageDocument): boolean {
  const plain = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(plain)
      : value !== null && typeof value === 'object'
        ? Object.fromEntries(
            Object.entries(value)
              .filter(([, part]) => part !== undefined)
              .sort(([a], [b]) => (a < b ? -1 : 1))
              .map(([key, part]) => [key, plain(part)]),
          )
        : value;
  return JSON.stringify(plain(one)) === JSON.stringify(plain(other));
}

/** How what was set aside stands to what the server has. */
export function standingOf(entry: Pick<Unsaved, 'revision' | 'page' | 'sending'>, server: StepPage): 'arrived' | 'follows' | 'conflicts' {
  if (isSamePage(server.page, entry.page)) return 'arrived';
  if (server.revision === entry.revision) return 'follows';
  // What was on its way has arrived after all: the rest was made on that.
  return entry.sending && isSamePage(server.page, entry.sending) ? 'follows' : 'conflicts';
}
