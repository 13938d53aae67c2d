import { dayWords, PERIODS, type PeriodName } from './periods';
import type { ReportChoice } from './useReportAsk';

const CONTROL = 'rounded-md border border-[#98a5a1] bg-white px-3 max-md:px-1 min-h-9.5 min-w-0 max-w-full';

/** Of when something is told: a period by its name, or days chosen one by one. */
export function PeriodChoice({ choice }: { choice: Pick<ReportChoice, 'ask' | 'periodName' | 'today' | 'choosePeriod' | 'chooseDays'> }) {
  const { ask, periodName, today } = choice;
  return (
    <>
      <select
        aria-label="Period"
        className={CONTROL}
        value={periodName ?? 'days'}
        onChange={({ target }) => (target.value === 'days' ? choice.chooseDays(ask) : choice.choosePeriod(target.value as PeriodName))}
      >
        {Object.entries(PERIODS).map(([name, period]) => (
          <option key={name} value={name}>
            {period.name}
          </option>
        ))}
        <option value="days">Other days</option>
      </select>
      {periodName === null ? (
        <>
          <input
            type="date"
            aria-label="From"
            className={CONTROL}
            max={ask.to}
            value={ask.from}
            onChange={({ target }) => target.value && choice.chooseDays({ from: target.value, to: target.value > ask.to ? target.value : ask.to })}
          />
          <input
            type="date"
            aria-label="To, this day included"
            className={CONTROL}
            max={today}
            value={ask.to}
            onChange={({ target }) => target.value && choice.chooseDays({ from: target.value < ask.from ? target.value : ask.from, to: target.value })}
          />
        </>
      ) : (
        <span className="text-soft">{ask.from === ask.to ? dayWords(ask.to, true) : `${dayWords(ask.from)} to ${dayWords(ask.to, true)}`}</span>
      )}
    </>
  );
}
