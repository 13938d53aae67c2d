import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, Search } from 'lucide-react';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { Button } from '../ui/Button';
import { useCards } from '../ui/useCards';
import type { ListQueryState } from './useListQuery';
import type { LoadedRows } from './useRows';

const ROW_HEIGHT = 44;
/** Of a card: its first line, each further one, and the room around them. */
const CARD = { head: 34, line: 28, around: 22 };
/** How many rows before the end of what is loaded the next ones are asked for. */
const AHEAD = 30;

export interface Column<Row> {
  id: string;
  header: string;
  cell: (row: Row) => ReactNode;
  /** The name by which the server sorts; without it the column cannot be sorted. */
  sort?: string;
  /** A column of figures, which stand at its end. */
  end?: boolean;
  /** A column that stands on wide screens alone. */
  wide?: boolean;
}

/** A table of a list of any length: the server searches, sorts and pages; rows come as one scrolls. A row opens its own page. */
export function DataTable<Row>(props: {
  list: LoadedRows<Row>;
  query: ListQueryState;
  /** How many rows there are in all; undefined while that is counted. */
  count: number | undefined;
  columns: Array<Column<Row>>;
  label: string;
  idOf: (row: Row) => string;
  hrefOf: (row: Row) => string;
  searchLabel: string;
  nothingFound: string;
  /** Filters and the like, beside the search. */
  tools?: ReactNode;
  /** Rows that are ticked, by id, for doing something with all of them. */
  selection?: {
    ids: ReadonlySet<string>;
    onChange: (ids: ReadonlySet<string>) => void;
    nameOf: (row: Row) => string;
    /** Asks the server for the ids of every row that the list has, also of those that are not loaded. */
    allIds: () => Promise<readonly string[]>;
  };
}) {
  const { query, columns, selection, idOf, count } = props;
  const { hasMore, failed, loadMore } = props.list;
  const rows = props.list.rows ?? [];
  const scroller = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const [allFailed, setAllFailed] = useState(false);
  const cards = useCards();
  const height = cards.isNarrow ? CARD.around + CARD.head + CARD.line * (columns.length - 1) : ROW_HEIGHT;
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => scroller.current, estimateSize: () => height, overscan: 12 });
  // biome-ignore lint/correctness/useExhaustiveDependencies: rows are as high as the screen has them
  useEffect(() => virtual.measure(), [height]);
  const items = virtual.getVirtualItems();
  const before = items[0]?.start ?? 0;
  const after = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  const lastShown = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (hasMore && !failed && lastShown >= rows.length - AHEAD) loadMore();
  }, [hasMore, failed, lastShown, rows.length, loadMore]);

  /** Ticks some rows, or takes their ticks away. */
  const tick = (ticked: Row[], on: boolean) => {
    const next = new Set(selection?.ids);
    for (const row of ticked) {
      if (on) next.add(idOf(row));
      else next.delete(idOf(row));
    }
    selection?.onChange(next);
  };
  const isAll = selection !== undefined && rows.length > 0 && selection.ids.size >= (count ?? rows.length) && rows.every((row) => selection.ids.has(idOf(row)));
  /** All that the list has, not only what is loaded of it. */
  const tickAll = async (on: boolean) => {
    if (!on) selection?.onChange(new Set());
    else if (hasMore) {
      const all = await selection?.allIds().catch(() => null);
      setAllFailed(!all);
      if (all) selection?.onChange(new Set([...(selection?.ids ?? []), ...all]));
    } else tick(rows, true);
  };
  return (
    <div>
      <div className="flex flex-wrap items-center gap-2 mb-3">
        <label className="relative block w-72 max-w-full">
          <span className="sr-only">{props.searchLabel}</span>
          <Search size={16} className="absolute left-3 top-1/2 -translate-y-1/2 text-soft" aria-hidden="true" />
          <input
            type="search"
            value={query.typed}
            onChange={(event) => query.onType(event.target.value)}
            placeholder={props.searchLabel}
            className="w-full rounded-md border border-[#98a5a1] bg-white pl-9 pr-3 min-h-9.5"
          />
        </label>
        {props.tools}
        <span className="ml-auto text-soft figures" role="status">
          {count === undefined ? '' : count.toLocaleString('en')}
        </span>
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard */}
      <section ref={scroller} tabIndex={0} aria-label={props.label} className="max-h-[calc(100vh-190px)] overflow-auto rounded-md border border-line bg-white">
        <table className="w-full border-collapse" {...cards.table}>
          <thead className="sticky top-0 bg-white z-10" {...cards.group}>
            <tr {...cards.row}>
              {selection ? (
                <th scope="col" className="pl-4 border-b border-line w-8" {...cards.header}>
                  <input
                    type="checkbox"
                    className="size-4.5 accent-go align-middle"
                    aria-label={count === undefined ? 'Select all' : `Select all ${count.toLocaleString('en')}`}
                    title={count === undefined ? 'Select all' : `Select all ${count.toLocaleString('en')}`}
                    ref={(box) => {
                      if (box) box.indeterminate = !isAll && selection.ids.size > 0;
                    }}
                    checked={isAll}
                    onChange={(event) => void tickAll(event.target.checked)}
                  />
                </th>
              ) : null}
              {columns.map((column) => (
                <HeaderCell key={column.id} column={column} query={query} role={cards.header.role} />
              ))}
            </tr>
          </thead>
          <tbody {...cards.group}>
            {before > 0 ? <tr style={{ height: before }} /> : null}
            {items.map((item) => {
              const row = rows[item.index];
              if (!row) return null;
              return (
                // The first cell holds a link for keyboard and screen readers; the rest of the row is a larger target for the mouse.
                <tr
                  key={idOf(row)}
                  className="border-b border-line last:border-0 hover:bg-ground cursor-pointer"
                  style={{ height }}
                  {...cards.row}
                  onClick={(event) => {
                    // What is pressed in a row, or in a dialog that it has opened, does its own thing.
                    const target = event.target as Element;
                    if (event.currentTarget.contains(target) && !target.closest('a, button, input')) navigate(props.hrefOf(row));
                  }}
                >
                  {selection ? (
                    <td className="pl-4 max-sm:float-left" {...cards.cell('')}>
                      <input
                        type="checkbox"
                        className="size-4.5 accent-go align-middle"
                        aria-label={`Select ${selection.nameOf(row)}`}
                        checked={selection.ids.has(idOf(row))}
                        onChange={(event) => tick([row], event.target.checked)}
                      />
                    </td>
                  ) : null}
                  {columns.map((column, index) => (
                    <td
                      key={column.id}
                      {...cards.cell(index === 0 ? '' : column.header)}
                      className={`px-4 max-md:px-2 truncate ${column.wide ? 'max-md:hidden max-sm:flex' : ''} ${index === 0 ? 'max-w-[30rem] max-md:max-w-44' : 'max-w-60 max-md:max-w-36'} ${column.end ? 'text-right' : ''}`}
                    >
                      {column.cell(row)}
                    </td>
                  ))}
                </tr>
              );
            })}
            {after > 0 ? <tr style={{ height: after }} /> : null}
          </tbody>
        </table>
        {allFailed ? (
          <p role="alert" className="px-4 py-3 text-stop font-semibold">
            Not all rows could be selected. Try again.
          </p>
        ) : null}
        {failed ? (
          <p role="alert" className="flex items-center gap-3 px-4 py-3">
            The rest of this list could not be loaded.
            <Button onClick={loadMore}>Try again</Button>
          </p>
        ) : null}
        {props.list.rows?.length === 0 ? <p className="px-4 py-8 text-soft">{props.nothingFound}</p> : null}
      </section>
    </div>
  );
}

function HeaderCell<Row>({ column, query, role }: { column: Column<Row>; query: ListQueryState; role: string | undefined }) {
  const { sort, direction } = query.ask;
  const isSorted = column.sort !== undefined && column.sort === sort;
  return (
    <th
      scope="col"
      role={role}
      aria-sort={isSorted ? (direction === 'asc' ? 'ascending' : 'descending') : undefined}
      className={`px-4 max-md:px-2 py-0 ${column.wide ? 'max-md:hidden' : ''} ${column.sort === undefined ? 'max-sm:sr-only' : ''} border-b border-line font-semibold text-soft ${column.end ? 'text-right' : 'text-left'}`}
    >
      {column.sort === undefined ? (
        <span className="inline-flex items-center min-h-9">{column.header}</span>
      ) : (
        <button type="button" className="inline-flex items-center gap-1 min-h-9 font-semibold" onClick={() => query.onSort(column.sort ?? '')}>
          {column.header}
          {isSorted ? direction === 'asc' ? <ArrowUp size={13} aria-hidden="true" /> : <ArrowDown size={13} aria-hidden="true" /> : null}
        </button>
      )}
    </th>
  );
}
