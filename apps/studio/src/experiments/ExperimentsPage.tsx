import type { ExperimentRow, ExperimentState } from '@ruta/core/experiments';
import { FlaskConical, Search } from 'lucide-react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { formatCount, formatTime } from '../base/format';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { Badge, Empty, Page, Waiting } from '../ui/Page';
import { experimentsApi } from './api';
import { NewTestDialog } from './NewTestDialog';
import { OUTCOME_WORDS } from './words';

const GROUPS: Array<{ state: ExperimentState; title: string }> = [
  { state: 'running', title: 'Running' },
  { state: 'planned', title: 'Planned' },
  { state: 'ended', title: 'What was learned' },
];

/** Every split test: what runs, what is planned, and what was learned, to be searched. */
export function ExperimentsPage() {
  const [params, setParams] = useSearchParams();
  const search = params.get('search') ?? '';
  const { data: rows, error, refetch } = experimentsApi.useExperimentsQuery({ search });
  const { data: shop } = shopApi.useShopQuery();
  const [isNew, setNew] = useState(false);
  if (!rows || !shop) return <Waiting error={error} retry={refetch} />;
  const isEmpty = rows.length === 0 && search === '';
  const plan = (
    <Button look="main" onClick={() => setNew(true)}>
      <FlaskConical size={17} aria-hidden="true" /> Plan a test
    </Button>
  );
  return (
    <Page title="Experiments" actions={isEmpty ? null : plan}>
      {isEmpty ? (
        <Empty title="Find out what sells better" action={plan}>
          A split test shows one half of your visitors something else, at the same address, and tells you when the difference is proved. Try a headline, a
          price, a bump, or another way through the funnel.
        </Empty>
      ) : (
        <>
          <label className="flex items-center gap-2 rounded-md border border-[#98a5a1] bg-white px-3 min-h-9.5 mb-4 max-w-md">
            <Search size={16} className="text-soft shrink-0" aria-hidden="true" />
            <span className="sr-only">Search tests and what was learned</span>
            <input
              type="search"
              className="flex-1 outline-none bg-transparent"
              placeholder="Search tests and what was learned"
              defaultValue={search}
              onChange={({ target }) => setParams(target.value ? { search: target.value } : {}, { replace: true })}
            />
          </label>
          {rows.length === 0 ? <p className="text-soft">No test reads like this.</p> : null}
          {GROUPS.map(({ state, title }) => {
            const here = rows.filter((row) => row.state === state);
            return here.length === 0 ? null : (
              <section key={state} className="mb-6">
                <h2 className="mb-2">{title}</h2>
                <ul className="rounded-md border border-line bg-white divide-y divide-line">
                  {here.map((row) => (
                    <TestRow key={row.id} row={row} timeZone={shop.settings.timeZone} />
                  ))}
                </ul>
              </section>
            );
          })}
        </>
      )}
      {isNew ? <NewTestDialog onClose={() => setNew(false)} /> : null}
    </Page>
  );
}

function TestRow({ row, timeZone }: { row: ExperimentRow; timeZone: string }) {
  const { id, name, state, funnel, step, outcome, words, learned, visitors, startedAt, endedAt } = row;
  return (
    <li className="relative px-4 py-3 hover:bg-band grid gap-x-4 gap-y-0.5 sm:grid-cols-[minmax(0,1fr)_auto]" data-test-row={state}>
      <p className="min-w-0 wrap-anywhere">
        <Link to={`/experiments/${id}`} className="font-bold after:absolute after:inset-0">
          {name}
        </Link>{' '}
        <span className="text-soft">
          {step.name} of {funnel.name}
        </span>
      </p>
      <p className="text-soft figures sm:text-right">
        {state === 'planned' ? 'Not started' : `${formatCount(visitors)} visitors`}
        {endedAt ? `, ended ${formatTime(endedAt, timeZone)}` : startedAt ? `, since ${formatTime(startedAt, timeZone)}` : ''}
      </p>
      <p className="min-w-0 wrap-anywhere sm:col-span-2">
        {outcome && state === 'ended' ? (
          <>
            <Badge tone={outcome === 'winner' ? 'go' : 'plain'}>{OUTCOME_WORDS[outcome]}</Badge>{' '}
          </>
        ) : null}
        {words}
        {learned ? <span className="block text-soft">Learned: {learned}</span> : null}
      </p>
    </li>
  );
}
