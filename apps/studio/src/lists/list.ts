import type { ListPage } from '@ruta/core/lists';

/** What a list of the studio is asked for beside its filters. */
export interface ListAsk {
  search?: string;
  sort?: string;
  direction?: 'asc' | 'desc';
  limit?: number;
}

/** How pages of a list follow each other, for `infiniteQuery`. */
export const PAGING = {
  initialPageParam: null as string | null,
  getNextPageParam: (last: ListPage<unknown>) => last.next,
};
