import type { ShopView } from '@ruta/core/pricing';
import { DIMENSIONS, type DimensionName, MEASURES, type Measure, type ReportRow, VISITS, type VisitName } from '@ruta/core/reports';
import { askedCategories } from '@ruta/core/shop';
import { type ReactNode, useEffect, useState } from 'react';
import { problemOf } from '../base/api';
import { useAppDispatch } from '../base/store';
import { Waiting } from '../ui/Page';
import { insightApi } from './api';
import { BehindDialog } from './BehindDialog';
import { Headline } from './Headline';
import { dayWords } from './periods';
import { ReportChart } from './ReportChart';
import { ReportControls } from './ReportControls';
import { ReportTable } from './ReportTable';
import { SpendTools } from './SpendTools';
import { useReportAsk } from './useReportAsk';

/** A report with its controls, the figures of the period, the chart that answers it, and its table. */
export function ReportView(props: {
  by: DimensionName;
  shop: ShopView;
  /** Of one funnel; of those that can be chosen, or of the whole shop, without it. */
  funnelId?: string;
  funnels: Array<{ id: string; name: string }> | null;
  /** Between the controls and the figures. */
  children?: ReactNode;
}) {
  const { by, shop, funnels } = props;
  const { timeZone, currency } = shop.settings;
  const choice = useReportAsk(by, timeZone, props.funnelId);
  const { ask } = choice;
  const { data: report, currentData, error, refetch } = insightApi.useReportQuery(ask);
  const { data: days } = insightApi.useReportQuery({ ...ask, by: 'day' });
  const [row, setRow] = useState<ReportRow | null>(null);
  const refused = error ? problemOf(error) : null;
  const shown = report?.by === by ? report : undefined;
  return (
    <>
      <ReportControls choice={choice} currency={currency} funnels={funnels} />
      {props.children}
      {refused && !currentData ? <Waiting error={error} retry={refetch} /> : null}
      {days ? <Headline report={days} /> : null}
      {shown ? (
        <div aria-busy={!currentData} className={currentData ? '' : 'opacity-60'}>
          {shown.visitorsUnknown ? (
            <p className="mb-3 rounded-md bg-experiment-tint text-experiment px-3 py-2">
              This filter asks what is known of buyers only, so that visitors, leads and rates of them cannot be counted. Orders and money are.
            </p>
          ) : null}
          {by === 'spend' ? <SpendTools shop={shop} ask={ask} /> : null}
          <ReportChart report={shown} days={days} ask={ask} today={choice.today} onBehind={setRow} />
          <ReportTable key={by} report={shown} onBehind={setRow} />
          <HowMade visit={shown.visit} measures={DIMENSIONS[by].measures} asksFirst={askedCategories(shop.settings.consent).length > 0} />
        </div>
      ) : null}
      {row && shown ? (
        <BehindDialog
          ask={ask}
          row={row}
          name={by === 'day' ? dayWords(row.name, true) : row.name}
          currency={currency}
          timeZone={timeZone}
          onClose={() => setRow(null)}
        />
      ) : null}
    </>
  );
}

/** Each figure says how it is made. */
function HowMade({ measures, asksFirst, visit }: { measures: readonly Measure[]; asksFirst: boolean; visit: VisitName | null }) {
  return (
    <details className="mt-3">
      <summary className="cursor-pointer text-soft">How these figures are made</summary>
      {visit ? (
        <p className="mt-2">
          <strong>{VISITS[visit].name}.</strong> {VISITS[visit].how}
        </p>
      ) : null}
      <dl className="mt-2 grid gap-x-6 gap-y-2 sm:grid-cols-2">
        {measures.map((measure) => (
          <div key={measure}>
            <dt className="font-semibold">{MEASURES[measure].name}</dt>
            <dd className="text-soft">{MEASURES[measure].how}</dd>
          </div>
        ))}
      </dl>
      {asksFirst ? (
        <p className="mt-3 text-soft">
          Your pages ask for consent: whoever has not agreed to statistics is counted by visit, so that somebody who comes back counts again.
        </p>
      ) : null}
      <Rebuild />
    </details>
  );
}

const POLL_MS = 700;

/** People are counted as they come; the counts can be made anew from the log. */
function Rebuild() {
  const [isRunning, setRunning] = useState(false);
  const dispatch = useAppDispatch();
  const { data } = insightApi.useRebuildStateQuery(undefined, { pollingInterval: isRunning ? POLL_MS : 0 });
  useEffect(() => {
    if (!data || data.isRunning === isRunning) return;
    setRunning(data.isRunning);
    // Done: what stands above is asked for anew.
    if (!data.isRunning) dispatch(insightApi.util.invalidateTags(['Report']));
  }, [data, isRunning, dispatch]);
  const [rebuild, { error, isLoading }] = insightApi.useRebuildMutation();
  return (
    <p className="mt-3 text-soft">
      Money comes from the orders. People are counted as they come, beside a log of everything that happened.{' '}
      {data?.isRunning ? (
        <span role="status">Made anew: {Math.floor((100 * data.done) / Math.max(1, data.of))} %. The shop goes on selling meanwhile.</span>
      ) : (
        <button type="button" className="text-info underline" disabled={isLoading} onClick={() => void rebuild()}>
          Make the counts anew from the log
        </button>
      )}{' '}
      {error ? problemOf(error).title : null}
    </p>
  );
}
