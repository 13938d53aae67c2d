import { type Forecast, type ForecastBasis, type ForecastInput, meanRate, type Rate, type Scenario, seenRate } from '@ruta/core/forecast';
import { type Currency, toDecimal } from '@ruta/core/money';
import { Plus, X } from 'lucide-react';
import { formatAmount, formatCount } from '../base/format';
import { newId } from '../base/newId';
import { Button } from '../ui/Button';
import { useCards } from '../ui/useCards';
import { CellField } from './CellField';
import { readAmount, readPercent } from './readFigures';

interface ForecastTableProps {
  basis: ForecastBasis;
  input: ForecastInput;
  forecast: Forecast;
  scenario: Scenario;
  onScenario: (scenario: Scenario) => void;
}

/** What is thought until somebody types otherwise: a quarter take a bump at a fifth of what the stop sells, a tenth an upsell at half. */
const NEW_BUMP = { share: 0.25, ofSale: 0.2 };
const NEW_UPSELL = { share: 0.1, ofSale: 0.5 };

const NAMES = ['People', 'Rate', 'A sale brings', 'Income', 'A tenth more earns'] as const;

/** One row: a stop or a bump. */
interface Row {
  id: string;
  name: string;
  stopId: string;
  isBump: boolean;
  isAdded: boolean;
  rate: Rate;
  /** Null for what sells nothing. */
  net: number | null;
}

function rowsOf(input: ForecastInput, scenario: Scenario): Row[] {
  const added = new Set([...scenario.bumps, ...scenario.upsells].map(({ id }) => id));
  // What sells nothing and leads nowhere is an end, and has no rate that could be worked on.
  const shown = input.stops.filter(({ sale, yes }) => sale !== null || yes.length > 0);
  return shown.flatMap((stop) => [
    { id: stop.id, name: stop.name, stopId: stop.id, isBump: false, isAdded: added.has(stop.id), rate: stop.rate, net: stop.sale ? stop.sale.net : null },
    ...stop.bumps.map(({ id, name, rate, sale }) => ({ id, name, stopId: stop.id, isBump: true, isAdded: added.has(id), rate, net: sale.net })),
  ]);
}

/** Stops and bumps with their people, rates and prices, which can be typed over, and what a tenth more of each would earn. */
export function ForecastTable({ basis, input, forecast, scenario, onScenario }: ForecastTableProps) {
  const cards = useCards();
  const { currency } = input;
  const stops = new Map(forecast.stops.map((stop) => [stop.id, stop]));
  const gains = new Map(forecast.sensitivities.map(({ id, change }) => [id, change * forecast.visitors]));
  const most = Math.max(1, ...gains.values());
  const setAdded = (id: string, more: { share?: number; net?: number }) => {
    const changed = <Of extends { id: string }>(each: Of): Of => (each.id === id ? { ...each, ...more } : each);
    onScenario({ ...scenario, bumps: scenario.bumps.map(changed), upsells: scenario.upsells.map(changed) });
  };
  const setRate = ({ id, isAdded }: Row, share: number) =>
    isAdded ? setAdded(id, { share }) : onScenario({ ...scenario, rates: { ...scenario.rates, [id]: share } });
  const setNet = ({ id, isAdded }: Row, net: number) =>
    isAdded ? setAdded(id, { net }) : onScenario({ ...scenario, prices: { ...scenario.prices, [id]: net } });
  const takeAway = (id: string) => {
    const others = <Of extends { id: string }>(all: Of[]): Of[] => all.filter((each) => each.id !== id);
    onScenario({ ...scenario, bumps: others(scenario.bumps), upsells: others(scenario.upsells) });
  };
  const tryBump = (stopId: string, net: number) =>
    onScenario({
      ...scenario,
      bumps: [...scenario.bumps, { id: newId('offer'), stopId, name: 'A new bump', share: NEW_BUMP.share, net: Math.round(net * NEW_BUMP.ofSale) }],
    });
  const tryUpsell = (afterId: string, net: number) =>
    onScenario({
      ...scenario,
      upsells: [...scenario.upsells, { id: newId('step'), afterId, name: 'A new upsell', share: NEW_UPSELL.share, net: Math.round(net * NEW_UPSELL.ofSale) }],
    });
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard
    <section tabIndex={0} aria-label="Stops and bumps" className="overflow-x-auto rounded-md border border-line bg-white">
      <table {...cards.table} className="w-full border-collapse figures">
        <thead {...cards.group}>
          <tr {...cards.row} className="text-soft">
            <th scope="col" {...cards.header} className="px-4 py-2 text-left font-semibold border-b border-line">
              Stop or bump
            </th>
            {NAMES.map((name) => (
              <th key={name} scope="col" {...cards.header} className="px-2 py-2 text-right font-semibold border-b border-line last:pr-4">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody {...cards.group}>
          {rowsOf(input, scenario).map((row) => {
            const stop = row.isBump ? undefined : stops.get(row.id);
            const gain = gains.get(row.id) ?? 0;
            const share = seenRate(row.rate);
            const reckoned = (meanRate(row.rate) * 100).toFixed(1);
            return (
              <tr key={row.id} {...cards.row} className="border-b border-line last:border-0 align-middle">
                <th
                  scope="row"
                  {...cards.rowHeader}
                  className={`py-1.5 pr-2 text-left max-w-96 wrap-anywhere ${row.isBump ? 'pl-9 font-normal' : 'pl-4 font-semibold'}`}
                >
                  <span className="inline-flex flex-wrap items-center gap-x-1">
                    <span>
                      {row.isBump ? <span className="text-soft">+ </span> : null}
                      {row.name}
                    </span>
                    {row.isAdded ? (
                      <button
                        type="button"
                        aria-label={`Take ${row.name} away`}
                        title="Take it away"
                        className="ml-2 align-middle text-soft"
                        onClick={() => takeAway(row.id)}
                      >
                        <X size={15} aria-hidden="true" />
                      </button>
                    ) : null}
                    {!row.isBump && basis.checkouts.includes(row.id) ? (
                      <span className="whitespace-nowrap">
                        <Button look="quiet" onClick={() => tryBump(row.id, row.net ?? 0)}>
                          <Plus size={14} aria-hidden="true" /> Try a bump
                        </Button>
                        <Button look="quiet" onClick={() => tryUpsell(row.id, row.net ?? 0)}>
                          <Plus size={14} aria-hidden="true" /> Try an upsell
                        </Button>
                      </span>
                    ) : null}
                  </span>
                </th>
                <td {...cards.cell(NAMES[0])} className="px-2 py-2.5 text-right">
                  {stop ? formatCount(Math.round(stop.people)) : ''}
                </td>
                <td {...cards.cell(NAMES[1])} className="px-2 py-1.5 text-right">
                  <CellField
                    label={`Rate of ${row.name} in percent`}
                    value={share}
                    text={(share * 100).toFixed(1)}
                    read={readPercent}
                    onValue={(value) => setRate(row, value)}
                    isChanged={row.isAdded || scenario.rates[row.id] !== undefined}
                    after="%"
                  />
                  {reckoned === (share * 100).toFixed(1) ? null : <span className="block text-soft text-sm">reckoned with {reckoned}%</span>}
                </td>
                <td {...cards.cell(NAMES[2])} className="px-2 py-1.5 text-right">
                  {row.net === null ? null : (
                    <CellField
                      label={`What a sale of ${row.name} brings in ${currency}`}
                      value={row.net}
                      text={toDecimal(row.net, currency as Currency)}
                      read={(typed) => readAmount(typed, currency)}
                      onValue={(value) => setNet(row, value)}
                      isChanged={row.isAdded || scenario.prices[row.id] !== undefined}
                    />
                  )}
                </td>
                <td {...cards.cell(NAMES[3])} className="px-2 py-2.5 text-right">
                  {stop && row.net !== null ? formatAmount(stop.income, currency) : ''}
                </td>
                <td {...cards.cell(NAMES[4])} className="pl-2 pr-4 py-2.5 text-right whitespace-nowrap">
                  {formatAmount(gain, currency)}
                  <span className="hidden sm:inline-block w-24 h-2.5 ml-2 rounded-sm bg-band align-middle overflow-hidden" aria-hidden="true">
                    <span className="block h-full bg-go" style={{ width: `${Math.max(0, gain / most) * 100}%` }} />
                  </span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
