import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { Button } from './Button';
import { Modal } from './Modal';

/**
 * Asks before a form with unsaved words is left, by a link, by going back or by closing the window.
 * @param onLeave is called once somebody has chosen to lose them
 */
export function LeaveGuard({ active, onLeave }: { active: boolean; onLeave?: () => void }) {
  const blocker = useBlocker(({ currentLocation, nextLocation }) => active && currentLocation.pathname !== nextLocation.pathname);
  useEffect(() => {
    if (!active) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [active]);
  const stay = () => blocker.reset?.();
  return (
    <Modal open={blocker.state === 'blocked'} onClose={stay} title="Leave without saving?" description="What you typed here would be lost.">
      <div className="flex gap-3">
        <Button look="main" onClick={stay}>
          Stay here
        </Button>
        <Button
          look="danger"
          onClick={() => {
            onLeave?.();
            blocker.proceed?.();
          }}
        >
          Leave without saving
        </Button>
      </div>
    </Modal>
  );
}
