import type { FunnelDetail } from '@ruta/core/checks';
import type { Step } from '@ruta/core/funnel';
import { FlaskConical, TriangleAlert } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { StopMark } from './StopMark';

/** The funnel's stops in order on a line: where you are in yellow, marks for unpublished changes and warnings. */
export function LineStrip({
  funnel,
  stops,
  currentId,
  hrefOf,
}: {
  funnel: FunnelDetail;
  stops: Step[];
  currentId: string | undefined;
  hrefOf: (id: string) => string;
}) {
  const live = funnel.version > 0;
  const strip = useRef<HTMLElement>(null);
  // A long line moves along with whoever hops on it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked for anew when another stop is current
  useEffect(() => {
    strip.current?.querySelector('[aria-current=page]')?.scrollIntoView({ block: 'nearest', inline: 'center' });
  }, [currentId]);
  return (
    <nav aria-label="Stops" className="py-1 overflow-x-auto" ref={strip}>
      <ol className="flex">
        {stops.map((stop, index) => {
          const changed = live && funnel.changes.stepIds.includes(stop.id);
          const problem = funnel.problems.find((candidate) => candidate.stepId === stop.id);
          const tested = funnel.tests.find(({ state, stepIds }) => state === 'running' && stepIds.includes(stop.id));
          const current = stop.id === currentId;
          return (
            <li key={stop.id} className="relative flex-1 min-w-[76px]">
              {index > 0 ? <span className="absolute right-1/2 left-[-50%] top-[13px] h-1 bg-go" aria-hidden="true" /> : null}
              <Link
                to={hrefOf(stop.id)}
                aria-current={current ? 'page' : undefined}
                className="relative flex flex-col items-center gap-0.5 pt-0.5 pb-1 rounded-md group"
              >
                <span className="relative z-10">
                  <StopMark kind={stop.kind} current={current} size={current ? 28 : 26} />
                  {changed ? <span className="absolute -top-1 -right-2 size-2.5 rounded-full bg-info" title="Not published yet" /> : null}
                  {tested ? <FlaskConical size={15} className="absolute -top-1.5 -left-5 text-experiment" aria-hidden="true" /> : null}
                  {problem ? <TriangleAlert size={14} className="absolute -top-1.5 -right-5 fill-care-tint text-care" aria-hidden="true" /> : null}
                </span>
                <span className={`truncate max-w-full px-2 group-hover:underline ${current ? 'font-bold' : 'text-soft'}`}>
                  {stop.name}
                  {changed ? <span className="sr-only">, not published yet</span> : null}
                  {tested ? <span className="sr-only">, in the running test {tested.name}</span> : null}
                  {problem ? <span className="sr-only">, warning: {problem.message}</span> : null}
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
