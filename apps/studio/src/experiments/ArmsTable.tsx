import type { Goal, Round } from '@ruta/core/experiments';
import { formatAmount, formatCount, formatRate } from '../base/format';
import { useCards } from '../ui/useCards';
import { IntervalBar, scaleOf } from './IntervalBar';
import { REACHED_WORDS } from './words';

const SMALLEST = 0.001;
const percent = (value: number) => (value < SMALLEST ? 'under 0.1 %' : formatRate(value));

/** The arms of a round beside each other: who came, what they did, and how sure one can be. */
export function ArmsTable({ round, goal, currency }: { round: Round; goal: Goal; currency: string }) {
  const { arms } = round.result;
  const cards = useCards();
  const isRevenue = goal === 'revenue';
  const estimateOf = (arm: (typeof arms)[number]) => (isRevenue ? (arm.revenue?.perVisitor ?? 0) : arm.rate);
  const intervalOf = (arm: (typeof arms)[number]) => (isRevenue ? (arm.revenue?.interval ?? ([0, 0] as [number, number])) : arm.interval);
  const write = (value: number) => (isRevenue ? formatAmount(value, currency) : formatRate(value));
  const signed = (value: number) => `${value > 0 ? '+' : value < 0 ? '−' : ''}${write(Math.abs(value))}`;
  const scale = scaleOf(arms.map(intervalOf));
  const visitors = arms.reduce((sum, arm) => sum + arm.visitors, 0);
  const best = Math.max(...arms.map(estimateOf));
  const names = {
    reached: REACHED_WORDS[goal],
    interval: `${isRevenue ? 'Revenue per visitor' : 'Rate'}, and where it lies`,
    against: 'Against the original',
    best: isRevenue ? 'Best rate of buyers' : 'Best of all',
    byChance: 'By chance',
  };
  return (
    <div className="overflow-x-auto">
      <table {...cards.table} className="w-full sm:min-w-[860px]" aria-label="Arms of the test">
        <thead {...cards.group}>
          <tr {...cards.row} className="text-left text-soft align-bottom">
            <th scope="col" {...cards.header} className="py-1 font-semibold">
              Arm
            </th>
            <th scope="col" {...cards.header} className="py-1 font-semibold text-right">
              Visitors
            </th>
            <th scope="col" {...cards.header} className="py-1 font-semibold text-right">
              {names.reached}
            </th>
            <th scope="col" {...cards.header} className="py-1 pl-5 font-semibold">
              {names.interval}
            </th>
            <th scope="col" {...cards.header} className="py-1 font-semibold text-right">
              {names.against}
            </th>
            <th scope="col" {...cards.header} className="py-1 font-semibold text-right">
              {names.best}
            </th>
            {isRevenue ? null : (
              <th scope="col" {...cards.header} className="py-1 font-semibold text-right">
                Revenue per visitor
              </th>
            )}
            <th scope="col" {...cards.header} className="py-1 font-semibold text-right">
              {names.byChance}
            </th>
          </tr>
        </thead>
        <tbody {...cards.group} className="figures align-top">
          {arms.map((arm, index) => {
            const [from, to] = intervalOf(arm);
            const { against } = arm;
            return (
              <tr key={arm.name} {...cards.row} className="border-t border-line" data-arm-row={arm.name}>
                <th scope="row" {...cards.rowHeader} className="py-2 pr-3 text-left wrap-anywhere">
                  {arm.name}
                </th>
                <td {...cards.cell('Visitors')} className="py-2 text-right">
                  {formatCount(arm.visitors)}
                  <span className="block text-soft">
                    {visitors === 0 ? '–' : formatRate(arm.visitors / visitors)} of {round.arms[index]?.share} %
                  </span>
                </td>
                <td {...cards.cell(names.reached)} className="py-2 text-right">
                  {formatCount(arm.converted)}
                  {isRevenue ? <span className="block text-soft">{formatRate(arm.visitors === 0 ? null : arm.rate)}</span> : null}
                </td>
                <td {...cards.cell(names.interval)} className="py-2 pl-5">
                  <span className="flex max-sm:clear-both items-center justify-end sm:justify-start gap-3">
                    <strong className="w-20 text-right">{arm.visitors === 0 ? '–' : write(estimateOf(arm))}</strong>
                    <IntervalBar
                      value={estimateOf(arm)}
                      interval={[from, to]}
                      scale={scale}
                      isAhead={arms.length > 1 && estimateOf(arm) === best && arm.visitors > 0}
                    />
                  </span>
                  <span className="block text-soft">
                    {write(from)} to {write(to)}
                  </span>
                </td>
                <td {...cards.cell(names.against)} className="py-2 text-right">
                  {against ? (
                    <>
                      {against.relative === null
                        ? '–'
                        : `${against.relative > 0 ? '+' : against.relative < 0 ? '−' : ''}${Math.abs(against.relative * 100).toFixed(1)} %`}
                      <span className="block text-soft">
                        {against.interval ? `${signed(against.interval[0])} to ${signed(against.interval[1])}` : 'too few yet'}
                      </span>
                    </>
                  ) : (
                    <span className="text-soft">–</span>
                  )}
                </td>
                <td {...cards.cell(names.best)} className="py-2 text-right">
                  {formatRate(arm.chanceBest)}
                  <span className="block text-soft" title="What of the rate would be lost on average by choosing it, against the best of all">
                    loss {(arm.expectedLoss * 100).toFixed(2)} %
                  </span>
                </td>
                {isRevenue ? null : (
                  <td {...cards.cell('Revenue per visitor')} className="py-2 text-right">
                    {arm.revenue && arm.visitors > 0 ? (
                      <>
                        {formatAmount(arm.revenue.perVisitor, currency)}
                        <span className="block text-soft">
                          {formatAmount(arm.revenue.interval[0], currency)} to {formatAmount(arm.revenue.interval[1], currency)}
                        </span>
                      </>
                    ) : (
                      '–'
                    )}
                  </td>
                )}
                <td {...cards.cell(names.byChance)} className="py-2 text-right">
                  {against ? (
                    <>
                      <strong>{percent(against.alwaysValid)}</strong>
                      <span className="block text-soft" title="The ordinary p-value: right for one look at the planned end only">
                        plain {percent(against.plain)}
                      </span>
                    </>
                  ) : (
                    <span className="text-soft">–</span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
