import type { ListPage } from '@ruta/core/lists';
import { useMemo } from 'react';

/** What an infinite query says of its list. */
interface Pages<Row> {
  data?: { pages: Array<ListPage<Row>> } | undefined;
  hasNextPage: boolean;
  isFetchingNextPage: boolean;
  isFetchNextPageError: boolean;
  fetchNextPage: () => unknown;
}

/** A list that is loaded page by page: what is there, and how to have more. */
export interface LoadedRows<Row> {
  /** Undefined before the first page is there. */
  rows: Row[] | undefined;
  hasMore: boolean;
  /** The next page could not be had; it is asked for again only when somebody says so. */
  failed: boolean;
  loadMore: () => void;
}

/** The rows of an infinite query, one after the other. */
export function useRows<Row>({ data, hasNextPage, isFetchingNextPage, isFetchNextPageError, fetchNextPage }: Pages<Row>): LoadedRows<Row> {
  const rows = useMemo(() => data?.pages.flatMap((page) => page.rows), [data]);
  return { rows, hasMore: hasNextPage, failed: isFetchNextPageError, loadMore: () => void (isFetchingNextPage || fetchNextPage()) };
}
