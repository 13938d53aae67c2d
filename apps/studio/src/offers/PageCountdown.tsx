import type { Step } from '@ruta/core/funnel';
import { addOfferCountdown, offerCountdown } from '@ruta/core/page';
import { Timer } from 'lucide-react';
import { Link } from 'react-router';
import { newId } from '../base/newId';
import { useWorkspace } from '../funnel/useFunnel';
import { usePageHand } from '../page/usePageHand';
import { Button } from '../ui/Button';

/** Whether the page tells of the deadline that was set here, and the countdown for it where it does not. */
export function PageCountdown({ step }: { step: Step }) {
  const { funnel } = useWorkspace();
  const { page, change } = usePageHand(step, funnel.id);
  if (!page) return null;
  const add = addOfferCountdown(page, newId);
  const shown = offerCountdown(page);
  const toPage = `/funnels/${funnel.id}/page/${step.id}`;
  return (
    <p role="status" className="flex flex-wrap items-center gap-x-3 gap-y-1 text-soft" data-countdown={shown ? 'shown' : 'missing'}>
      {shown ? (
        <span>
          The page counts down to it.{' '}
          <Link to={toPage} className="underline">
            Change the countdown
          </Link>
        </span>
      ) : (
        <>
          <span>The page doesn’t show this deadline yet.</span>
          {add ? (
            <Button onClick={() => change(add)}>
              <Timer size={15} aria-hidden="true" /> Add a countdown
            </Button>
          ) : (
            <Link to={toPage} className="underline">
              Open the page
            </Link>
          )}
        </>
      )}
    </p>
  );
}
