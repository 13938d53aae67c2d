import { applyScenario, type Forecast, NO_SCENARIO } from '@ruta/core/forecast';
import { type Currency, toDecimal } from '@ruta/core/money';
import { useMemo } from 'react';
import { useParams } from 'react-router';
import { formatAmount, formatCount } from '../base/format';
import { DimensionTabs } from '../insight/InsightPage';
import { PeriodChoice } from '../insight/PeriodChoice';
import { useReportAsk } from '../insight/useReportAsk';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { Waiting } from '../ui/Page';
import { forecastApi } from './api';
import { CellField } from './CellField';
import { ForecastTable } from './ForecastTable';
import { readAmount, readPeople } from './readFigures';
import { Scenarios } from './Scenarios';
import { useForecast } from './useForecast';
import { useScenario } from './useScenario';

/** Of fewer orders a forecast says little. */
const FEW_ORDERS = 30;

/** Where to work next, and what a funnel would come to if its figures were others. */
export function ForecastView() {
  const { funnelId = '' } = useParams();
  const { data: shop, error, refetch } = shopApi.useShopQuery();
  if (!shop) return <Waiting error={error} retry={refetch} />;
  return (
    <main id="main" className="px-6 py-4">
      <Forecasting key={funnelId} funnelId={funnelId} timeZone={shop.settings.timeZone} />
    </main>
  );
}

function Forecasting({ funnelId, timeZone }: { funnelId: string; timeZone: string }) {
  const choice = useReportAsk('step', timeZone, funnelId);
  const { from, to } = choice.ask;
  const { data: basis, error, refetch } = forecastApi.useForecastBasisQuery({ funnelId, from, to });
  const [scenario, change] = useScenario(funnelId);
  const input = useMemo(() => (basis ? applyScenario(basis.input, scenario) : null), [basis, scenario]);
  const { result, progress, problem, isStopped, stop } = useForecast(input);
  const isChanged = JSON.stringify(scenario) !== JSON.stringify(NO_SCENARIO);
  if (!basis || !input) return <Waiting error={error} retry={refetch} />;
  const { currency, visitors, clickPrice } = input;
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 mb-3">
        <PeriodChoice choice={choice} />
        <span className="inline-flex items-start gap-2">
          <span className="pt-1">Visitors</span>
          <CellField
            label="Visitors"
            value={visitors}
            text={formatCount(visitors)}
            read={readPeople}
            onValue={(value) => change({ ...scenario, visitors: value })}
            isChanged={scenario.visitors !== null}
          />
        </span>
        <span className="inline-flex items-start gap-2">
          <span className="pt-1">each costs {currency}</span>
          <CellField
            label={`What a visitor costs in ${currency}`}
            value={clickPrice}
            text={toDecimal(Math.round(clickPrice), currency as Currency)}
            read={(typed) => readAmount(typed, currency)}
            onValue={(value) => change({ ...scenario, clickPrice: value })}
            isChanged={scenario.clickPrice !== null}
          />
        </span>
        {basis.clickPrice !== null && scenario.clickPrice === null ? (
          <Button look="quiet" onClick={() => change({ ...scenario, clickPrice: Math.round(basis.clickPrice ?? 0) })}>
            Take {formatAmount(basis.clickPrice, currency)}, as your ads cost
          </Button>
        ) : null}
        {isChanged ? <Button onClick={() => change(NO_SCENARIO)}>Back to what is real</Button> : null}
        {progress ? (
          <span className="inline-flex items-center gap-2 text-soft" role="status">
            <progress max={progress.of} value={progress.done} className="w-24" aria-label="Sampled funnels" /> {formatCount(progress.done)} of{' '}
            {formatCount(progress.of)} funnels{' '}
            <Button look="quiet" onClick={stop}>
              Stop
            </Button>
          </span>
        ) : null}
      </div>
      <DimensionTabs by="forecast" base={`/funnels/${funnelId}/results`} without={['funnel']} />
      {problem ? (
        <p role="alert" className="rounded-md border border-stop bg-stop-tint text-stop px-3 py-2 font-semibold mb-3">
          {problem} A forecast needs stops that lead on; draw the way back out of the circle and look again.
        </p>
      ) : null}
      {isStopped ? (
        <p className="text-stop font-semibold mb-3">Stopped. Figures that stand below are of what was asked before; change one to reckon anew.</p>
      ) : null}
      {result ? (
        <>
          <Figures forecast={result} />
          <WorkNext forecast={result} />
          <ForecastTable basis={basis} input={input} forecast={result} scenario={scenario} onScenario={change} />
        </>
      ) : null}
      <Scenarios funnelId={funnelId} days={{ from, to }} scenario={scenario} currency={currency} timeZone={timeZone} onOpen={change} />
      {basis.orders < FEW_ORDERS ? (
        <p className="text-soft mt-2">
          {basis.orders === 0 ? 'Nothing was sold' : `Only ${basis.orders} orders were paid`} in this period, so what is seen is uncertain: look at a longer
          one, or type what you expect.
        </p>
      ) : null}
      {basis.unseen.length > 0 ? (
        <p className="text-soft mt-2">Nobody came to {basis.unseen.join(', ')} in this period; its rate stands as 0 until you type one.</p>
      ) : null}
      <details className="mt-3 text-soft">
        <summary>How these figures are made</summary>
        <p className="mt-1 max-w-prose">
          People go from stop to stop by the rates of the period and along the routes they took, all beginning at the first stop. A sale brings and costs what
          it did on average, less what was given back; fees and goods are those of your costs. For the spread, 20,000 funnels are drawn, each rate as uncertain
          as the number of people it was seen of. What you type is taken as certain. Violet fields are typed.
        </p>
      </details>
    </>
  );
}

/** A loss less likely than this is not spoken of. */
const RARE = 0.005;

/** What it comes to, with how far it may be off. */
function Figures({ forecast }: { forecast: Forecast }) {
  const { currency, spread } = forecast;
  const money = (amount: number) => formatAmount(amount, currency);
  const figures: Array<{ name: string; value: number; within?: Forecast['spread']['profit']; how: string }> = [
    { name: 'Income', value: forecast.income, within: spread.income, how: 'Without tax and shipping, less what is given back.' },
    { name: 'Profit', value: forecast.profit, within: spread.profit, how: 'Income and shipping less fees, goods and what the visitors cost.' },
    { name: 'Profit per visitor', value: forecast.profitPerVisitor, how: 'Profit divided by visitors.' },
    { name: 'A visitor may cost', value: forecast.breakEvenClickPrice, within: spread.breakEvenClickPrice, how: 'At this price profit is nothing.' },
    { name: 'Due later', value: forecast.later, how: 'Of plans that end, tax included; in no other figure.' },
  ];
  return (
    <dl aria-label="Forecast" className="grid grid-cols-2 lg:grid-cols-5 rounded-md border border-line bg-white mb-3 overflow-hidden">
      {figures.map(({ name, value, within, how }) => (
        <div key={name} className="border-line px-4 py-3 -ml-px -mt-px border-l border-t" title={how}>
          <dt className="text-soft">{name}</dt>
          <dd className="text-xl font-bold figures">
            {money(value)}
            {within && within.low !== within.high ? (
              <span className="block text-sm font-normal text-soft">
                9 in 10: {money(within.low)} to {money(within.high)}
              </span>
            ) : null}
            {name === 'Profit' && spread.lossChance >= RARE ? (
              <span className="block text-sm font-semibold text-stop">loses money in {Math.round(spread.lossChance * 100)} of 100</span>
            ) : null}
          </dd>
        </div>
      ))}
    </dl>
  );
}

const NAMED = 3;

const percent = (share: number) => `${(share * 100).toFixed(1)}%`;

/** The rates of which a tenth more earns the most. */
function WorkNext({ forecast }: { forecast: Forecast }) {
  const most = forecast.sensitivities.filter(({ change }) => change > 0).slice(0, NAMED);
  if (most.length === 0) return null;
  const isTied = (rank: number) => forecast.sensitivities.filter((each) => each.rank === rank).length > 1;
  return (
    <section className="rounded-md border border-line bg-white px-4 py-3 mb-3">
      <h2 className="mb-1">Where to work next</h2>
      <ol className="grid gap-x-6 gap-y-1 md:grid-cols-3">
        {most.map(({ id, name, seen, rate, raised, change, rank }) => (
          <li key={id} className="min-w-0 wrap-anywhere">
            <span className="inline-grid place-items-center size-6 rounded-full border-2 border-go text-go font-bold mr-2 figures" aria-hidden="true">
              {rank}
            </span>
            <span className="font-semibold">{name}</span>: {percent(seen) === percent(rate) ? '' : `seen ${percent(seen)}, reckoned `}from {percent(rate)} to{' '}
            {percent(raised)}{' '}
            <span className="block pl-8 text-go font-semibold figures">
              earns {formatAmount(change * forecast.visitors, forecast.currency)} more{isTied(rank) ? ', the same as another' : ''}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
