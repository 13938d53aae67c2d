import { type ColumnDef, flexRender, getCoreRowModel, getFilteredRowModel, getSortedRowModel, type SortingState, useReactTable } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, Search } from 'lucide-react';
import { type ReactNode, useRef, useState } from 'react';
import { useNavigate } from 'react-router';

const ROW_HEIGHT = 44;

/** A table that sorts, searches and stays fast with thousands of rows. A row opens its own page. */
export function DataTable<Row>(props: {
  rows: Row[];
  columns: Array<ColumnDef<Row, never>>;
  /** Columns of figures, which stand at the end of their column. */
  endColumns: string[];
  label: string;
  hrefOf: (row: Row) => string;
  searchLabel: string;
  nothingFound: string;
  /** Filters and the like, beside the search. */
  tools?: ReactNode;
  /** Rows that are ticked, by id, for doing something with all of them. */
  selection?: { ids: ReadonlySet<string>; onChange: (ids: ReadonlySet<string>) => void; idOf: (row: Row) => string; nameOf: (row: Row) => string };
}) {
  const [sorting, setSorting] = useState<SortingState>([]);
  const [search, setSearch] = useState('');
  const scroller = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const table = useReactTable({
    data: props.rows,
    columns: props.columns as Array<ColumnDef<Row>>,
    state: { sorting, globalFilter: search },
    onSortingChange: setSorting,
    onGlobalFilterChange: setSearch,
    globalFilterFn: 'includesString',
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
  });
  const { rows } = table.getRowModel();
  const { selection } = props;
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => scroller.current, estimateSize: () => ROW_HEIGHT, overscan: 12 });
  const items = virtual.getVirtualItems();
  const before = items[0]?.start ?? 0;
  const after = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  return (
    <div>
      <div className="flex flex-wrap items-center gap-2 mb-3">
        <label className="relative block w-72 max-w-full">
          <span className="sr-only">{props.searchLabel}</span>
          <Search size={16} className="absolute left-3 top-3 text-soft" aria-hidden="true" />
          <input
            type="search"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
            placeholder={props.searchLabel}
            className="w-full rounded-md border border-[#98a5a1] bg-white pl-9 pr-3 min-h-9.5"
          />
        </label>
        {props.tools}
        <span className="ml-auto text-soft figures" role="status">
          {rows.length === props.rows.length
            ? rows.length.toLocaleString('en')
            : `${rows.length.toLocaleString('en')} of ${props.rows.length.toLocaleString('en')}`}
        </span>
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard */}
      <section ref={scroller} tabIndex={0} aria-label={props.label} className="max-h-[calc(100vh-190px)] overflow-auto rounded-md border border-line bg-white">
        <table className="w-full border-collapse">
          <thead className="sticky top-0 bg-white z-10">
            {table.getHeaderGroups().map((group) => (
              <tr key={group.id}>
                {selection ? (
                  <th scope="col" className="pl-4 border-b border-line w-8">
                    <input
                      type="checkbox"
                      className="size-4.5 accent-go align-middle"
                      aria-label="Choose all that are shown"
                      checked={rows.length > 0 && rows.every((row) => selection.ids.has(selection.idOf(row.original)))}
                      onChange={(event) => {
                        const next = new Set(selection.ids);
                        for (const row of rows) {
                          if (event.target.checked) next.add(selection.idOf(row.original));
                          else next.delete(selection.idOf(row.original));
                        }
                        selection.onChange(next);
                      }}
                    />
                  </th>
                ) : null}
                {group.headers.map((header) => {
                  const sorted = header.column.getIsSorted();
                  return (
                    <th
                      key={header.id}
                      scope="col"
                      aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
                      className={`px-4 py-0 border-b border-line font-semibold text-soft ${props.endColumns.includes(header.column.id) ? 'text-right' : 'text-left'}`}
                    >
                      <button type="button" className="inline-flex items-center gap-1 min-h-9 font-semibold" onClick={header.column.getToggleSortingHandler()}>
                        {flexRender(header.column.columnDef.header, header.getContext())}
                        {sorted === 'asc' ? <ArrowUp size={13} aria-hidden="true" /> : sorted === 'desc' ? <ArrowDown size={13} aria-hidden="true" /> : null}
                      </button>
                    </th>
                  );
                })}
              </tr>
            ))}
          </thead>
          <tbody>
            {before > 0 ? <tr style={{ height: before }} /> : null}
            {items.map((item) => {
              const row = rows[item.index];
              if (!row) return null;
              return (
                // The first cell holds a link for keyboard and screen readers; the rest of the row is a larger target for the mouse.
                <tr
                  key={row.id}
                  className="border-b border-line last:border-0 hover:bg-ground cursor-pointer"
                  style={{ height: ROW_HEIGHT }}
                  onClick={() => navigate(props.hrefOf(row.original))}
                >
                  {selection ? (
                    // biome-ignore lint/a11y/useKeyWithClickEvents: the click is kept from the row; the box itself has the keyboard
                    <td className="pl-4" onClick={(event) => event.stopPropagation()}>
                      <input
                        type="checkbox"
                        className="size-4.5 accent-go align-middle"
                        aria-label={`Choose ${selection.nameOf(row.original)}`}
                        checked={selection.ids.has(selection.idOf(row.original))}
                        onChange={(event) => {
                          const next = new Set(selection.ids);
                          if (event.target.checked) next.add(selection.idOf(row.original));
                          else next.delete(selection.idOf(row.original));
                          selection.onChange(next);
                        }}
                      />
                    </td>
                  ) : null}
                  {row.getVisibleCells().map((cell, index) => (
                    <td
                      key={cell.id}
                      className={`px-4 truncate ${index === 0 ? 'max-w-[30rem]' : 'max-w-60'} ${props.endColumns.includes(cell.column.id) ? 'text-right' : ''}`}
                    >
                      {flexRender(cell.column.columnDef.cell, cell.getContext())}
                    </td>
                  ))}
                </tr>
              );
            })}
            {after > 0 ? <tr style={{ height: after }} /> : null}
          </tbody>
        </table>
        {rows.length === 0 ? <p className="px-4 py-8 text-soft">{props.nothingFound}</p> : null}
      </section>
    </div>
  );
}
