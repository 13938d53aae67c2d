import { DIMENSIONS, MEASURES, type Measure, type Report, type ReportRow } from '@ruta/core/reports';
import { lazy, Suspense, useCallback, useMemo, useState } from 'react';
import { Panel } from '../ui/Page';
import { insightApi, type ReportAsk } from './api';
import { cartsOption, flowOption, hourRow, hoursOption, trendOption } from './charts/options';
import { dayWords } from './periods';

const Chart = lazy(() => import('../ui/Chart'));
const HEIGHT = 210;

/** The chart that answers what a report asks; reports that a table answers better have none. */
export function ReportChart(props: { report: Report; days: Report | undefined; ask: ReportAsk; today: string; onBehind: (row: ReportRow) => void }) {
  const { report, days, ask, today, onBehind } = props;
  switch (report.by) {
    case 'hour':
      return <Hours report={report} onBehind={onBehind} />;
    case 'cart':
      return (
        <Framed title="Carts by the day they were begun" notes={['green: paid at once', 'violet: won back', 'grey: left']}>
          <Drawn make={() => cartsOption(report)} of={report} label="Carts by day: paid at once, won back and left" />
        </Framed>
      );
    case 'step':
    case 'route':
      return ask.funnelId ? <Flow ask={ask} /> : null;
    case 'day':
      // A single day is no line.
      return days && days.rows.length > 1 ? <Trend report={days} today={today} /> : null;
    default:
      return null;
  }
}

function Framed({ title, notes, children }: { title: React.ReactNode; notes: string[]; children: React.ReactNode }) {
  return (
    <Panel>
      <div className="flex flex-wrap items-baseline gap-x-3 mb-1">
        <h2>{title}</h2>
        <span className="text-soft">{notes.join(' · ')}</span>
      </div>
      {children}
    </Panel>
  );
}

interface DrawnProps {
  make: () => ReturnType<typeof trendOption>;
  of: unknown;
  label: string;
  height?: number;
  onPick?: (value: unknown) => void;
}

function Drawn({ make, of, label, height = HEIGHT, onPick }: DrawnProps) {
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is drawn is made of this alone
  const option = useMemo(make, [of]);
  return (
    <Suspense fallback={<div style={{ height }} />}>
      <Chart option={option} label={label} height={height} {...(onPick ? { onPick } : {})} />
    </Suspense>
  );
}

function MeasureChoice({ measures, value, onChange }: { measures: readonly Measure[]; value: Measure; onChange: (measure: Measure) => void }) {
  return (
    <select
      aria-label="Figure that is drawn"
      className="rounded-md border border-line bg-white px-2 py-0.5 font-bold"
      value={value}
      onChange={({ target }) => onChange(target.value as Measure)}
    >
      {measures.map((measure) => (
        <option key={measure} value={measure}>
          {MEASURES[measure].name}
        </option>
      ))}
    </select>
  );
}

/** A figure day by day against the earlier period. */
export function Trend({ report, today }: { report: Report; today: string }) {
  const [measure, setMeasure] = useState<Measure>(report.visitorsUnknown ? 'revenue' : 'perVisitor');
  const { earlier } = report;
  const shown = useMemo(() => ({ report, measure }), [report, measure]);
  const notes = [
    'filled: these days',
    ...(earlier ? [`dashed: ${dayWords(earlier.from)} to ${dayWords(earlier.to, true)}`] : []),
    ...(report.published.length > 0 ? ['yellow: published'] : []),
    ...(report.to === today && report.rows.length > 1 ? ['today is not over and not drawn'] : []),
  ];
  return (
    <Framed title={<MeasureChoice measures={DIMENSIONS.day.measures} value={measure} onChange={setMeasure} />} notes={notes}>
      <Drawn make={() => trendOption(report, measure, today)} of={shown} label={`${MEASURES[measure].name} by day`} />
    </Framed>
  );
}

function Hours({ report, onBehind }: { report: Report; onBehind: (row: ReportRow) => void }) {
  const [measure, setMeasure] = useState<Measure>('orders');
  const shown = useMemo(() => ({ report, measure }), [report, measure]);
  const pick = useCallback(
    (value: unknown) => {
      const row = hourRow(report, value);
      if (row && (row.figures.orders ?? 0) > 0) onBehind(row);
    },
    [report, onBehind],
  );
  return (
    <Framed
      title={<MeasureChoice measures={DIMENSIONS.hour.measures} value={measure} onChange={setMeasure} />}
      notes={['by hour of the week in the shop’s time zone', 'the darker, the more', 'click an hour to see its orders']}
    >
      <Drawn make={() => hoursOption(report, measure)} of={shown} label={`${MEASURES[measure].name} by hour of the week`} height={240} onPick={pick} />
    </Framed>
  );
}

/** Where people go, stop by stop. */
function Flow({ ask }: { ask: ReportAsk }) {
  const { data: routes } = insightApi.useReportQuery({ ...ask, by: 'route', compare: 'none' });
  const { data: stops } = insightApi.useReportQuery({ ...ask, by: 'step', compare: 'none' });
  const option = useMemo(() => (routes && stops ? flowOption(routes, stops) : null), [routes, stops]);
  if (!option) return null;
  return (
    <Framed title="Where people go" notes={['as wide as they are many; who goes nowhere has left']}>
      <Drawn make={() => option} of={option} label="How people go from stop to stop" height={230} />
    </Framed>
  );
}
