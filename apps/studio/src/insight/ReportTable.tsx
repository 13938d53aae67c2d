import { DIMENSIONS, figureOf, MEASURES, type Measure, type Report, type ReportRow, sortOf, VISITS } from '@ruta/core/reports';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useState } from 'react';
import { useCards } from '../ui/useCards';
import { changeLook, changeOf, figureWords } from './figures';
import { dayWords, monthWords } from './periods';

/** How dark the ground of a figure becomes at most; what stands on it stays readable. */
const DEEPEST_TINT = 0.28;

interface Sorting {
  measure: Measure | 'name';
  down: boolean;
}

/** By which orders can be found behind a row; of the others there are none to show. */
const HAS_ORDERS: ReadonlySet<Report['by']> = new Set([
  'cohort',
  'day',
  'funnel',
  'step',
  'product',
  'price',
  'code',
  'campaign',
  'source',
  'country',
  'device',
  'hour',
  'spend',
]);
/** A share is drawn beside the rate that a report is about. */
const BAR: Partial<Record<Report['by'], Measure>> = { step: 'rate', offer: 'takeRate', cart: 'finishRate' };

/** A report as a table that sorts: each row with its figures and how they have changed, the total last. */
export function ReportTable({ report, onBehind }: { report: Report; onBehind: (row: ReportRow) => void }) {
  const { by, total, totalBefore, currency } = report;
  const measures: readonly Measure[] = DIMENSIONS[by].measures;
  const [sorting, setSorting] = useState<Sorting | null>(null);
  const shown = sorting ? sorted(report.rows, sorting) : report.rows;
  const first = sortOf(by);
  const sortBy = (measure: Sorting['measure']) => setSorting((now) => ({ measure, down: now?.measure === measure ? !now.down : measure !== 'name' }));
  const bar = BAR[by];
  // What follows each other is compared in the chart; single days against single days say little.
  const isSeries = by === 'day' || by === 'cart' || by === 'hour';
  const isOf = (measure: Sorting['measure']) => (sorting ? sorting.measure === measure : measure === first);
  const arrow = (measure: Sorting['measure']) =>
    isOf(measure) ? sorting && !sorting.down ? <ArrowUp size={13} aria-hidden="true" /> : <ArrowDown size={13} aria-hidden="true" /> : null;
  const ordered = (measure: Sorting['measure']) => (isOf(measure) ? (sorting && !sorting.down ? 'ascending' : 'descending') : undefined);
  const cards = useCards();
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard
    <section tabIndex={0} aria-label={DIMENSIONS[by].name} className="max-h-[70vh] overflow-auto rounded-md border border-line bg-white">
      <table className="w-full border-collapse figures" {...cards.table}>
        <thead className="sticky top-0 max-sm:static bg-white z-10" {...cards.group}>
          <tr {...cards.row}>
            <th scope="col" {...cards.header} className="px-4 py-2.5 text-left border-b border-line" aria-sort={ordered('name')}>
              <button type="button" className="inline-flex items-center gap-1 font-semibold text-soft" onClick={() => sortBy('name')}>
                {DIMENSIONS[by].one} {arrow('name')}
              </button>
              {report.visit ? <span className="block font-normal text-soft text-sm">{VISITS[report.visit].name}</span> : null}
            </th>
            {measures.map((measure) => (
              <th key={measure} scope="col" {...cards.header} className="px-2 py-2.5 text-right border-b border-line last:pr-4" aria-sort={ordered(measure)}>
                <button
                  type="button"
                  title={MEASURES[measure].how}
                  className="inline-flex items-center gap-1 font-semibold text-soft text-right leading-tight"
                  onClick={() => sortBy(measure)}
                >
                  {arrow(measure)} {MEASURES[measure].name}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody {...cards.group}>
          {shown.map((row) => (
            <tr key={row.key} className="border-b border-line" {...cards.row}>
              <th scope="row" {...cards.rowHeader} className="px-4 py-1.5 text-left font-semibold min-w-32 max-w-80 wrap-anywhere">
                {HAS_ORDERS.has(by) && ((row.figures.revenue ?? 0) !== 0 || (row.figures.orders ?? 0) > 0 || (row.figures.subscribed ?? 0) > 0) ? (
                  <button
                    type="button"
                    className="text-left font-semibold underline decoration-line underline-offset-3 hover:decoration-ink"
                    onClick={() => onBehind(row)}
                  >
                    {rowName(report, row)}
                  </button>
                ) : (
                  rowName(report, row)
                )}
                {row.detail ? <span className="block font-normal text-soft">{row.detail}</span> : null}
              </th>
              {measures.map((measure) => (
                <Cell
                  key={measure}
                  figures={row.figures}
                  before={isSeries ? undefined : row.before}
                  measure={measure}
                  currency={currency}
                  bar={measure === bar}
                  tinted={by === 'cohort' && MEASURES[measure].kind === 'ratio'}
                />
              ))}
            </tr>
          ))}
          {shown.length === 0 ? (
            <tr>
              <td colSpan={measures.length + 1} className="px-4 py-6 text-soft text-center">
                Nothing in this period.
              </td>
            </tr>
          ) : null}
        </tbody>
        {Object.keys(total).length > 0 && shown.length > 0 ? (
          <tfoot className="sticky bottom-0 max-sm:static bg-band" {...cards.group}>
            <tr {...cards.row}>
              <th scope="row" {...cards.rowHeader} className="px-4 py-2 text-left">
                {by === 'funnel' && !total.came ? 'All together' : 'Total'}
              </th>
              {measures.map((measure) => (
                <Cell key={measure} figures={total} before={totalBefore} measure={measure} currency={currency} isTotal={isTotalled(by, measure)} />
              ))}
            </tr>
          </tfoot>
        ) : null}
      </table>
    </section>
  );
}

/** Who comes to one stop comes to the next as well: added up it would be no number of people. */
const isTotalled = (by: Report['by'], measure: Measure): boolean => !(by === 'step' && ['came', 'reached', 'rate'].includes(measure));

const rowName = ({ by }: Report, row: ReportRow): string =>
  by === 'day' || by === 'cart' ? dayWords(row.name, true) : by === 'cohort' ? monthWords(row.name) : row.name;

function sorted(rows: readonly ReportRow[], { measure, down }: Sorting): ReportRow[] {
  const sign = down ? -1 : 1;
  if (measure === 'name') return rows.toSorted((a, b) => sign * a.name.localeCompare(b.name, undefined, { numeric: true }));
  // What is unknown stands at the end, whichever way it is sorted.
  return rows.toSorted((a, b) => {
    const [one, other] = [figureOf(a.figures, measure), figureOf(b.figures, measure)];
    if (one === null || other === null) return Number(one === null) - Number(other === null);
    return sign * (one - other);
  });
}

function Cell(props: {
  figures: ReportRow['figures'];
  before: ReportRow['before'];
  measure: Measure;
  currency: string;
  bar?: boolean;
  tinted?: boolean;
  isTotal?: boolean;
}) {
  const { figures, before, measure, currency, bar = false, tinted = false, isTotal = true } = props;
  const change = isTotal ? changeOf(figures, before, measure) : undefined;
  const cards = useCards();
  const share = bar ? Math.min(1, figureOf(figures, measure) ?? 0) : 0;
  return (
    <td
      {...cards.cell(MEASURES[measure].name)}
      className="px-2 py-1.5 text-right whitespace-nowrap align-top last:pr-4"
      // The more stayed, the greener: a cohort is read as a picture before it is read as numbers.
      style={tinted ? { background: `rgb(11 107 79 / ${(figureOf(figures, measure) ?? 0) * DEEPEST_TINT})` } : undefined}
    >
      {isTotal ? figureWords(figures, measure, currency) : ''}
      {bar ? (
        <span className="inline-block w-28 h-2.5 ml-2 rounded-sm bg-band align-middle overflow-hidden" aria-hidden="true">
          <span className="block h-full bg-go" style={{ width: `${share * 100}%` }} />
        </span>
      ) : null}
      {change ? <span className={`block max-sm:inline max-sm:ml-2 text-sm ${changeLook(change, measure)}`}>{change.words}</span> : null}
    </td>
  );
}
