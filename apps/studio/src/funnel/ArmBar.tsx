import type { OpenArm } from '@ruta/core/checks';
import { FlaskConical } from 'lucide-react';
import { useState } from 'react';
import { ButtonLink } from '../ui/Button';

/** Says that an arm of a test is open, not the funnel itself, and what differs in it. */
export function ArmBar({ arm }: { arm: OpenArm }) {
  const [open, setOpen] = useState(false);
  const count = arm.differences.length;
  return (
    <aside aria-label="The arm that is open" className="bg-experiment-tint border-b border-line px-5 py-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <span className="inline-flex items-center gap-2 text-experiment font-semibold wrap-anywhere">
          <FlaskConical size={17} aria-hidden="true" /> Arm “{arm.name}” of “{arm.experiment.name}”
        </span>
        {arm.problem ? (
          <span role="alert" className="text-stop font-semibold">
            {arm.problem} The original is shown; what you change makes the arm anew.
          </span>
        ) : (
          <button type="button" className="underline" aria-expanded={open} disabled={count === 0} onClick={() => setOpen(!open)} data-arm-count={count}>
            {count === 0
              ? 'Nothing differs from the original yet'
              : count === 1
                ? 'One thing differs'
                : `${count} things differ: change one at a time to learn something`}
          </button>
        )}
        {arm.experiment.state === 'running' ? <span>It is running; what you change here waits for a new round.</span> : null}
        <ButtonLink to={`/experiments/${arm.experiment.id}`} className="ml-auto">
          Back to the test
        </ButtonLink>
      </div>
      {open && count > 0 ? (
        <ul className="mt-1 grid gap-0.5" data-arm-differences="">
          {arm.differences.map(({ stop, what }, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two differences may read alike
            <li key={index} className="wrap-anywhere">
              <span className="text-soft">{stop}:</span> {what}
            </li>
          ))}
        </ul>
      ) : null}
    </aside>
  );
}
