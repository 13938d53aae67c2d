import type { FunnelDetail } from '@ruta/core/checks';
import { FlaskConical } from 'lucide-react';
import { Link } from 'react-router';

/** Warns that what is open is under test: what is changed here and published begins the test anew. */
export function UnderTest({ funnel, stepId }: { funnel: FunnelDetail; stepId: string | undefined }) {
  const running = funnel.tests.filter(({ state, stepIds }) => state === 'running' && stepId !== undefined && stepIds.includes(stepId));
  if (running.length === 0 || funnel.arm) return null;
  return (
    <aside aria-label="Under test" className="bg-experiment-tint border-b border-line px-5 py-2 flex flex-wrap items-center gap-2" data-under-test="">
      <FlaskConical size={17} className="text-experiment shrink-0" aria-hidden="true" />
      <span className="wrap-anywhere">
        {running.map(({ experimentId, name }, index) => (
          <span key={experimentId}>
            {index > 0 ? ', ' : ''}
            <Link to={`/experiments/${experimentId}`} className="font-semibold underline">
              {name}
            </Link>
          </span>
        ))}{' '}
        {running.length === 1
          ? 'is running here. What you change and publish begins it anew, from zero.'
          : 'are running here. What you change and publish begins them anew, from zero.'}
      </span>
    </aside>
  );
}
