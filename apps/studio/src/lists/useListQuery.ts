import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { ListAsk } from './list';

/** Keys are gathered for this long before the server is asked. */
const QUIET_MS = 200;

/** Which part of a list is wanted: search and order stand in the address, so that Back and a reload bring them again. */
export interface ListQueryState {
  ask: Required<Pick<ListAsk, 'direction'>> & ListAsk;
  /** What stands in the search field, before it is asked for. */
  typed: string;
  onType: (text: string) => void;
  onSort: (column: string) => void;
}

export function useListQuery(): ListQueryState {
  const [params, setParams] = useSearchParams();
  const search = params.get('search') ?? '';
  const sort = params.get('sort') ?? undefined;
  const direction = params.get('direction') === 'asc' ? 'asc' : 'desc';
  const [typed, setTyped] = useState(search);
  // What this field itself put in the address: anything else there came by a link, and is shown in the field.
  const sent = useRef(search);

  useEffect(() => {
    if (search === sent.current) return;
    sent.current = search;
    setTyped(search);
  }, [search]);

  useEffect(() => {
    if (typed === search) return;
    const timer = setTimeout(() => {
      sent.current = typed;
      setParams(
        (now) => {
          if (typed) now.set('search', typed);
          else now.delete('search');
          return now;
        },
        { replace: true },
      );
    }, QUIET_MS);
    return () => clearTimeout(timer);
  }, [typed, search, setParams]);

  return {
    ask: { search, sort, direction },
    typed,
    onType: setTyped,
    onSort: (column) =>
      setParams(
        (now) => {
          now.set('direction', sort === column && direction === 'desc' ? 'asc' : 'desc');
          now.set('sort', column);
          return now;
        },
        { replace: true },
      ),
  };
}
