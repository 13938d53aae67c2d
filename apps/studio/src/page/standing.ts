import { equal } from '@ruta/core/json';
import { mergePages, type PageDocument, type StepPage } from '@ruta/core/page';
import type { Unsaved } from './unsaved';

/** How what was set aside stands to what the server has. */
export function standingOf(entry: Pick<Unsaved, 'revision' | 'page' | 'sending'>, server: StepPage): 'arrived' | 'follows' | 'conflicts' {
  if (equal(server.page, entry.page)) return 'arrived';
  if (server.revision === entry.revision) return 'follows';
  // What was on its way has arrived after all: the rest was made on that.
  return entry.sending && equal(server.page, entry.sending) ? 'follows' : 'conflicts';
}

/** What was changed here and what another window saved, put together; null where both changed the same thing. */
export const joined = ({ base, page }: Pick<Unsaved, 'base' | 'page'>, server: Pick<StepPage, 'page'>): PageDocument | null =>
  base ? mergePages(base, page, server.page) : null;
