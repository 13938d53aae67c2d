import type { Goal, Round } from '@ruta/core/experiments';
import { lazy, Suspense, useMemo } from 'react';
import { formatAmount, formatCount, formatRate, formatTime } from '../base/format';
import { Panel } from '../ui/Page';
import { useCards } from '../ui/useCards';
import { ArmsTable } from './ArmsTable';
import { colourOf, courseOption } from './courseOption';
import { REACHED_WORDS } from './words';

const Chart = lazy(() => import('../ui/Chart'));
const CHART_HEIGHT = 200;
const FEWEST_DAYS_DRAWN = 2;

interface RoundProps {
  round: Round;
  goal: Goal;
  currency: string;
  timeZone: string;
  isLatest?: boolean;
}

/** What was counted of one round, and what may be concluded from it. */
export function RoundPanel({ round, goal, currency, timeZone, isLatest = false }: RoundProps) {
  const option = useMemo(() => courseOption(round, goal, currency), [round, goal, currency]);
  const visitors = round.result.arms.reduce((sum, arm) => sum + arm.visitors, 0);
  return (
    <Panel title={round.number > 1 || !isLatest ? `Round ${round.number}` : round.endedAt ? 'What was found' : 'So far'}>
      <Verdict round={round} visitors={visitors} timeZone={timeZone} />
      {round.result.isUneven ? (
        <p role="alert" className="rounded-md border border-stop bg-stop-tint px-3 py-2 mb-3">
          <strong className="text-stop">Visitors fall on the arms too unevenly for chance</strong> (it happens less than once in a thousand tests). Something is
          wrong with how they are counted or led here; nothing can be concluded.
        </p>
      ) : null}
      <ArmsTable round={round} goal={goal} currency={currency} />
      {round.days.length >= FEWEST_DAYS_DRAWN ? (
        <figure className="mt-4">
          <figcaption className="flex flex-wrap gap-x-4 font-semibold">
            {goal === 'revenue' ? 'Revenue per visitor' : 'Rate'} of all who came until then
            {round.arms.map(({ id, name }, index) => (
              <span key={id} className="inline-flex items-center gap-1.5 font-normal">
                <span className="w-4 h-1 rounded-full" style={{ background: colourOf(index) }} aria-hidden="true" /> {name}
              </span>
            ))}
          </figcaption>
          <Suspense fallback={<div style={{ height: CHART_HEIGHT }} />}>
            <Chart option={option} label="How the goal of each arm settled, day by day" height={CHART_HEIGHT} />
          </Suspense>
        </figure>
      ) : null}
      <Guards round={round} currency={currency} />
      <Parts round={round} goal={goal} currency={currency} />
      <details className="mt-3 text-soft">
        <summary className="cursor-pointer">How these figures are made, and why reading early fools nobody</summary>
        <div className="mt-1 max-w-prose grid gap-2">
          <p>
            Everybody counts once, in the arm they first saw, from their first view of a stop under test. Revenue is net, over the whole funnel, with bumps and
            what was added after the payment, less what was given back; who bought nothing counts as 0.
          </p>
          <p>
            Whoever looks at an ordinary test every day and stops when it looks good is fooled by chance far more often than one time in twenty. What decides
            here is a figure that holds however often one looks (a mixture sequential probability ratio test, shared out among the arms): under 5 % it is
            proved. A test decides itself after a week at the earliest, since people buy otherwise on Mondays than on Sundays. The ordinary p-value stands
            beside it for reference, and is right for one look at the planned end only.
          </p>
        </div>
      </details>
    </Panel>
  );
}

function Verdict({ round, visitors, timeZone }: { round: Round; visitors: number; timeZone: string }) {
  const { result, planned, endedAt, why, lastDay } = round;
  const { decision } = result;
  const part = Math.min(1, visitors / Math.max(1, planned.visitors));
  const words = {
    winner: () => `“${decision.kind === 'winner' ? decision.arm : ''}” is better, and that is proved.`,
    'original-is-better': () => 'The original is better, and that is proved.',
    undecided: () => 'Nothing is proved.',
    'go-on': () => 'Nothing is proved yet.',
    'not-to-be-trusted': () => 'These figures are not to be trusted.',
  }[decision.kind]();
  return (
    <div className="mb-4 grid gap-1">
      <p className="text-[1.15rem] font-bold wrap-anywhere" data-verdict={decision.kind}>
        {words}
      </p>
      {endedAt ? (
        <p className="wrap-anywhere">
          {why} <span className="text-soft">Ended {formatTime(endedAt, timeZone)}.</span>
        </p>
      ) : (
        <p className="flex flex-wrap items-center gap-2 text-soft">
          <progress
            max={1}
            value={part}
            className="w-40 h-2.5 appearance-none rounded-full overflow-hidden [&::-webkit-progress-bar]:bg-band [&::-webkit-progress-value]:bg-go [&::-moz-progress-bar]:bg-go"
            aria-label="Of the planned visitors"
          />
          <span className="figures">
            {formatCount(visitors)} of about {formatCount(planned.visitors)} visitors
          </span>
          {lastDay ? <span>Ends by itself when {lastDay} is over, at the latest.</span> : <span>Ends by itself when it is decided.</span>}
        </p>
      )}
    </div>
  );
}

const GUARDS = ['Arm', 'Orders', 'Per order', 'With a bump', 'With an addition', 'Given back', 'Leads'] as const;

/** What is to be watched beside the goal. */
function Guards({ round, currency }: { round: Round; currency: string }) {
  const cards = useCards();
  const share = (part: number, of: number) => (of === 0 ? '–' : formatRate(part / of));
  return (
    <div className="mt-4 overflow-x-auto">
      <h3 className="font-semibold">To be watched beside it</h3>
      <p className="text-soft mb-1">A gain in the goal that is lost here again is none.</p>
      <table {...cards.table} className="w-full sm:min-w-[640px]" aria-label="Figures to be watched">
        <thead {...cards.group}>
          <tr {...cards.row} className="text-left text-soft">
            {GUARDS.map((head, index) => (
              <th key={head} scope="col" {...cards.header} className={`py-1 font-semibold ${index > 0 ? 'text-right' : ''}`}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody {...cards.group} className="figures">
          {round.guards.map((guard) => (
            <tr key={guard.armId} {...cards.row} className="border-t border-line">
              <th scope="row" {...cards.rowHeader} className="py-1 pr-3 text-left wrap-anywhere">
                {round.arms.find(({ id }) => id === guard.armId)?.name}
              </th>
              <td {...cards.cell(GUARDS[1])} className="text-right">
                {formatCount(guard.orders)}
              </td>
              <td {...cards.cell(GUARDS[2])} className="text-right">
                {formatAmount(guard.orderValue, currency)}
              </td>
              <td {...cards.cell(GUARDS[3])} className="text-right">
                {share(guard.bumps, guard.orders)}
              </td>
              <td {...cards.cell(GUARDS[4])} className="text-right">
                {share(guard.additions, guard.orders)}
              </td>
              <td {...cards.cell(GUARDS[5])} className="text-right">
                {formatAmount(guard.refunded, currency)}, {share(guard.refundedOrders, guard.orders)}
              </td>
              <td {...cards.cell(GUARDS[6])} className="text-right">
                {formatCount(guard.leads)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The same by device and by day. */
function Parts({ round, goal, currency }: { round: Round; goal: Goal; currency: string }) {
  const cards = useCards();
  const tables = [
    { name: 'By device', rows: round.devices.map(({ device, arms }) => ({ key: device || 'Unknown', arms })) },
    { name: 'By day', rows: round.days.map(({ day, arms }) => ({ key: day, arms })).reverse() },
  ];
  const nameOf = (armId: string) => round.arms.find(({ id }) => id === armId)?.name ?? '';
  return (
    <>
      {tables.map(({ name, rows }) => (
        <details key={name} className="mt-3">
          <summary className="cursor-pointer font-semibold">{name}</summary>
          <div className="overflow-x-auto">
            <table {...cards.table} className="w-full sm:min-w-[560px]" aria-label={name}>
              <thead {...cards.group}>
                <tr {...cards.row} className="text-left text-soft">
                  <th scope="col" {...cards.header} className="py-1 font-semibold">
                    {name === 'By day' ? 'First came on' : 'Device'}
                  </th>
                  {round.arms.map(({ id, name: arm }) => (
                    <th key={id} scope="col" {...cards.header} className="py-1 font-semibold text-right wrap-anywhere">
                      {arm}: visitors, {REACHED_WORDS[goal].toLowerCase()}
                      {goal === 'revenue' ? ', per visitor' : ''}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody {...cards.group} className="figures">
                {rows.map(({ key, arms }) => (
                  <tr key={key} {...cards.row} className="border-t border-line">
                    <th scope="row" {...cards.rowHeader} className="py-1 text-left font-normal">
                      {key.charAt(0).toUpperCase() + key.slice(1)}
                    </th>
                    {arms.map(({ armId, visitors, converted, revenue }) => (
                      <td key={armId} {...cards.cell(nameOf(armId))} className="text-right">
                        {formatCount(visitors)}, {visitors === 0 ? '–' : formatRate(converted / visitors)}
                        {goal === 'revenue' ? `, ${visitors === 0 ? '–' : formatAmount(revenue / visitors, currency)}` : ''}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </details>
      ))}
    </>
  );
}
