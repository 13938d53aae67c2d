import type { ExperimentView } from '@ruta/core/experiments';
import { formatAmount, formatCount, formatRate } from '../base/format';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Page';

/** What a test takes, before it starts: how it goes today, how many visitors and weeks the difference needs, and what speaks against it. */
export function PlanPanel({ test, currency }: { test: ExperimentView; currency: string }) {
  const { baseline, planned, hindrances, warnings, change, goal, arms, state } = test;
  const lately = baseline.days === 1 ? 'Today' : `In the last ${baseline.days} days`;
  const now = goal === 'revenue' ? `each brought ${formatAmount(baseline.mean, currency)}` : `${formatRate(baseline.rate)} of them reached the goal`;
  const { plan } = planned;
  const isRunning = state === 'running';
  if (isRunning && hindrances.length === 0 && warnings.length === 0) return null;
  return (
    <Panel title={isRunning ? 'Before a new round' : 'What it takes'}>
      {isRunning ? null : (
        <>
          {plan ? (
            <p className="text-[1.15rem] mb-1" data-plan={plan.visitors}>
              <strong className="figures">{formatCount(plan.visitors)}</strong> visitors, <strong className="figures">{formatCount(plan.perArm)}</strong> in
              each of the {arms.length} arms
              {plan.weeks === null ? null : (
                <>
                  : about <strong className="figures">{plan.weeks === 1 ? 'one week' : `${formatCount(plan.weeks)} weeks`}</strong>
                </>
              )}
              .
            </p>
          ) : null}
          {baseline.visitors > 0 ? (
            <p className="text-soft mb-3">
              {lately} <span className="figures">{formatCount(baseline.visitors)}</span> visitors came to{' '}
              {test.stops.length > 0 ? test.stops.map(({ name }) => `“${name}”`).join(', ') : `“${test.step.name}”`},{' '}
              <span className="figures">{formatCount(Math.round(baseline.dailyEntrants))}</span> a day, and {now}. To find a difference of{' '}
              <span className="figures">{Math.round(change * 1000) / 10} %</span> four times out of five, and be fooled by chance in one of twenty, looked at as
              often as you like.
              {plan && plan.plainPerArm < plan.perArm ? (
                <>
                  {' '}
                  Looked at once, at the end, <span className="figures">{formatCount(plan.plainPerArm)}</span> in each would do.
                </>
              ) : null}
            </p>
          ) : null}
        </>
      )}
      {hindrances.length > 0 ? (
        <div className="mb-3">
          <h3 className="font-semibold mb-1">{isRunning ? 'A new round waits for' : 'Before it can start'}</h3>
          <ul className="grid gap-2" data-hindrances={hindrances.length}>
            {hindrances.map((words) => (
              <li key={words}>
                <Notice tone="stop">{words}</Notice>
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {warnings.length > 0 ? (
        <ul className="grid gap-2" data-warnings={warnings.length}>
          {warnings.map((words) => (
            <li key={words}>
              <Notice tone="care">{words}</Notice>
            </li>
          ))}
        </ul>
      ) : null}
      {plan && hindrances.length === 0 && warnings.length === 0 ? <p className="text-go font-semibold">Nothing speaks against it.</p> : null}
    </Panel>
  );
}
