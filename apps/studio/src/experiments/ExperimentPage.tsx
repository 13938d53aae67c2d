import type { ExperimentView } from '@ruta/core/experiments';
import type { ShopView } from '@ruta/core/pricing';
import { ExternalLink } from 'lucide-react';
import { Link, useParams } from 'react-router';
import { formatTime } from '../base/format';
import { openedAs } from '../base/openedAs';
import { shopApi } from '../shop/api';
import { Badge, Page, Waiting } from '../ui/Page';
import { ArmCards } from './ArmCards';
import { experimentsApi } from './api';
import { Learned } from './Learned';
import { PlanPanel } from './PlanPanel';
import { RoundPanel } from './RoundPanel';
import { SettingsPanel } from './SettingsPanel';
import { TestActions } from './TestActions';
import { STATE_WORDS } from './words';

/** Figures of a running test are asked for anew so often while one looks at them. */
const POLL_MS = 30_000;

/** One split test: planned, read while it runs, and what came of it. */
export function ExperimentPage() {
  const { experimentId = '' } = useParams();
  const { data: test, error, refetch } = experimentsApi.useExperimentQuery(experimentId, { pollingInterval: POLL_MS, skipPollingIfUnfocused: true });
  const { data: shop } = shopApi.useShopQuery();
  if (!test || !shop) return <Waiting error={error} retry={refetch} />;
  return <Shown key={test.id} test={test} shop={shop} />;
}

function Shown({ test, shop }: { test: ExperimentView; shop: ShopView }) {
  const [latest, ...before] = test.rounds;
  const { currency, timeZone } = shop.settings;
  return (
    <Page title={test.name} actions={<TestActions test={test} />}>
      <p className="-mt-3 mb-4 flex flex-wrap items-center gap-x-3 gap-y-1 text-soft">
        <Badge tone={test.state === 'running' ? 'experiment' : 'plain'}>{STATE_WORDS[test.state]}</Badge>
        <Link to={`/funnels/${test.funnel.id}/page/${test.step.id}`} className="underline">
          {test.step.name}
        </Link>
        <span>of {test.funnel.name}</span>
        {test.step.address ? (
          <a href={openedAs(test.step.address)} target="_blank" rel="noreferrer" className="inline-flex items-center gap-1 text-info underline">
            {test.step.address} <ExternalLink size={14} aria-hidden="true" />
          </a>
        ) : null}
        {latest ? (
          <span>
            {test.endedAt ? '' : 'since '}
            {formatTime((test.endedAt ? test.rounds.at(-1) : latest)?.startedAt ?? latest.startedAt, timeZone)}
            {test.endedAt ? ` to ${formatTime(test.endedAt, timeZone)}` : ''}
          </span>
        ) : null}
      </p>
      {test.question ? <p className="mb-4 max-w-prose wrap-anywhere">{test.question}</p> : null}
      {test.state === 'planned' ? (
        <>
          <ArmCards test={test} shop={shop} />
          <PlanPanel test={test} currency={currency} />
          <SettingsPanel test={test} shop={shop} />
        </>
      ) : (
        <>
          {test.state === 'ended' ? <Learned test={test} /> : null}
          {latest ? <RoundPanel round={latest} goal={test.goal} currency={currency} timeZone={timeZone} isLatest /> : null}
          <ArmCards test={test} shop={shop} />
          {test.state === 'running' ? (
            <>
              {test.hasChanges ? <PlanPanel test={test} currency={currency} /> : null}
              <SettingsPanel test={test} shop={shop} />
            </>
          ) : null}
          {before.map((round) => (
            <details key={round.id} className="mb-4">
              <summary className="cursor-pointer font-semibold py-1">
                Round {round.number}, until {formatTime(round.endedAt ?? round.startedAt, timeZone)}
              </summary>
              <RoundPanel round={round} goal={test.goal} currency={currency} timeZone={timeZone} />
            </details>
          ))}
        </>
      )}
    </Page>
  );
}
