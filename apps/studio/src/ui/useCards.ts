import { useSyncExternalStore } from 'react';

/** Below this a table has no room for its columns; the style sheet says the same. */
const NARROW = '(max-width: 639px)';

/**
 * Whether the rows of a table stand as cards, each value beside its name. What is drawn as a block is no table to a screen
 * reader any more, so that its parts then say by themselves what they are.
 */
export function useCards() {
  const isNarrow = useSyncExternalStore(
    (onChange) => {
      const media = matchMedia(NARROW);
      media.addEventListener('change', onChange);
      return () => media.removeEventListener('change', onChange);
    },
    () => matchMedia(NARROW).matches,
  );
  const as = (role: string) => (isNarrow ? { role } : {});
  return {
    isNarrow,
    table: { ...as('table'), 'data-cards': '' },
    group: as('rowgroup'),
    row: as('row'),
    cell: (name: string) => ({ ...as('cell'), 'data-name': name }),
    rowHeader: as('rowheader'),
    header: as('columnheader'),
  };
}
