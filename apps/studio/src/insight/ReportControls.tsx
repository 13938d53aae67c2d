import { daysIn, earlierPeriod, isByVisit, VISITS, type VisitName } from '@ruta/core/reports';
import { Download } from 'lucide-react';
import { withQuery } from '../base/api';
import { ConditionFilter } from '../conditions/ConditionFilter';
import { ButtonAnchor } from '../ui/Button';
import { askedOf } from './api';
import { PeriodChoice } from './PeriodChoice';
import type { ReportChoice } from './useReportAsk';

const CONTROL = 'rounded-md border border-[#98a5a1] bg-white px-3 max-md:px-1 min-h-9.5 min-w-0 max-w-full';

/** Of when a report is, what it is compared with, and of whom. */
export function ReportControls({ choice, currency, funnels }: { choice: ReportChoice; currency: string; funnels: Array<{ id: string; name: string }> | null }) {
  const { ask, today } = choice;
  return (
    <div className="max-md:grid max-md:grid-cols-2 flex flex-wrap items-center gap-2 mb-3">
      <PeriodChoice choice={choice} />
      {ask.to >= today ? <span className="text-soft">Not compared: today is not over.</span> : <Comparison choice={choice} />}
      {funnels ? (
        <select aria-label="Funnel" className={CONTROL} value={ask.funnelId ?? ''} onChange={({ target }) => choice.chooseFunnel(target.value)}>
          <option value="">Every funnel</option>
          {funnels.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      ) : null}
      {isByVisit(ask.by) ? (
        <select
          aria-label="Attribution"
          title={VISITS[ask.visit ?? 'first'].how}
          className={CONTROL}
          value={ask.visit ?? 'first'}
          onChange={({ target }) => choice.chooseVisit(target.value as VisitName)}
        >
          <option value="first">by first visit</option>
          <option value="last">by last visit</option>
        </select>
      ) : null}
      <ConditionFilter
        title="Whom is this of?"
        description="Orders count where this held when they were paid."
        value={ask.filter}
        onChange={choice.chooseFilter}
        currency={currency}
        some="Filtered"
        everybody="Everyone"
      />
      <ButtonAnchor className="ml-auto" href={`/api${withQuery('/reports/export', askedOf(ask))}`} download>
        <Download size={16} aria-hidden="true" /> CSV
      </ButtonAnchor>
    </div>
  );
}

/** What a period is compared with, always of as many whole days. */
function Comparison({ choice }: { choice: ReportChoice }) {
  const { ask, today } = choice;
  const days = daysIn(ask);
  return (
    <>
      <select
        aria-label="Against"
        className={CONTROL}
        value={ask.compare}
        onChange={({ target }) => choice.chooseCompare(target.value as typeof ask.compare, earlierPeriod(ask, 'before').from)}
      >
        <option value="before">{days === 1 ? 'against the day before' : `against the ${days} days before`}</option>
        <option value="year">against a year before</option>
        <option value="days">against other days</option>
        <option value="none">against nothing</option>
      </select>
      {ask.compare === 'days' ? (
        <input
          type="date"
          aria-label="First of the other days"
          className={CONTROL}
          max={today}
          value={ask.compareFrom}
          onChange={({ target }) => target.value && choice.chooseCompare('days', target.value)}
        />
      ) : null}
    </>
  );
}
