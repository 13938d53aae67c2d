import type { SavedScenario, Scenario } from '@ruta/core/forecast';
import type { Period } from '@ruta/core/reports';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { formatAmount, formatCount, formatTime } from '../base/format';
import { Button } from '../ui/Button';
import { TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import { forecastApi } from './api';

interface ScenariosProps {
  funnelId: string;
  days: Period;
  scenario: Scenario;
  currency: string;
  timeZone: string;
  onOpen: (scenario: Scenario) => void;
}

/** Scenarios that were kept: what was thought a visitor would bring, and what they have brought since. */
export function Scenarios({ funnelId, days, scenario, currency, timeZone, onOpen }: ScenariosProps) {
  const { data: kept = [], error } = forecastApi.useScenariosQuery(funnelId);
  const [keep, keeping] = forecastApi.useKeepScenarioMutation();
  const [remove, removing] = forecastApi.useRemoveScenarioMutation();
  const [name, setName] = useState('');
  const [tried, setTried] = useState(false);
  const money = (amount: number) => formatAmount(amount, currency);
  const problem = keeping.error ?? removing.error ?? error;
  async function save() {
    setTried(true);
    if (name.trim() === '') return;
    const done = await keep({ funnelId, kept: { name, ...days, scenario } })
      .unwrap()
      .catch(() => null);
    if (!done) return;
    setName('');
    setTried(false);
  }
  return (
    <div className="mt-3">
      <Panel title="Scenarios">
        <form
          noValidate
          className="flex flex-wrap items-end gap-2 mb-2"
          onSubmit={(event) => {
            event.preventDefault();
            void save();
          }}
        >
          <div className="w-72 max-w-full">
            <TextField
              label="Name"
              placeholder="For example: a dearer course"
              maxLength={80}
              value={name}
              error={tried && name.trim() === '' ? 'Give it a name.' : undefined}
              onChange={(event) => setName(event.target.value)}
            />
          </div>
          <Button type="submit" disabled={keeping.isLoading}>
            Keep what is shown
          </Button>
        </form>
        {problem ? (
          <p role="alert" className="text-stop font-semibold mb-2">
            {problemOf(problem).title}
          </p>
        ) : null}
        {kept.length === 0 ? (
          <p className="text-soft">Keep what you expect under a name. From the next day on it stands here beside what really happened.</p>
        ) : (
          <ul>
            {kept.map((each) => (
              <li key={each.id} className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-t border-line py-2">
                <span className="min-w-0 wrap-anywhere">
                  <span className="font-semibold">{each.name}</span> <span className="text-soft">kept {formatTime(each.createdAt, timeZone)}</span>
                  <span className="block figures">
                    Thought {money(each.thought.perVisitor)} a visitor, 9 in 10 {money(each.thought.low)} to {money(each.thought.high)}.{' '}
                    {happenedWords(each, money)}
                  </span>
                </span>
                <span className="flex gap-1">
                  <Button look="quiet" aria-label={`Open ${each.name}`} onClick={() => onOpen(each.scenario)}>
                    Open
                  </Button>
                  <Button look="quiet" aria-label={`Remove ${each.name}`} disabled={removing.isLoading} onClick={() => remove({ funnelId, id: each.id })}>
                    Remove
                  </Button>
                </span>
              </li>
            ))}
          </ul>
        )}
      </Panel>
    </div>
  );
}

/** What came of it, against what was thought. */
function happenedWords({ happened, thought }: SavedScenario, money: (amount: number) => string): string {
  if (happened === null) return 'What happens is counted from tomorrow on.';
  if (happened.perVisitor === null) return 'Nobody has come since.';
  const where = happened.perVisitor < thought.low ? 'below that' : happened.perVisitor > thought.high ? 'above that' : 'within that';
  return `Since then ${money(happened.perVisitor)} of ${formatCount(happened.visitors)} visitors: ${where}.`;
}
