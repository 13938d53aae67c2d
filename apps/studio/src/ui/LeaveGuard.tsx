import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { useUploading } from '../base/uploadsUnderWay';
import { Button } from './Button';
import { Modal } from './Modal';

/**
 * Asks before a form with unsaved words, or with a file on its way, is left: by a link, by going back or by closing the window.
 * @param onLeave is called once somebody has chosen to lose them
 */
export function LeaveGuard({ active, onLeave }: { active: boolean; onLeave?: () => void }) {
  const isUploading = useUploading();
  const asks = active || isUploading;
  const blocker = useBlocker(({ currentLocation, nextLocation }) => asks && currentLocation.pathname !== nextLocation.pathname);
  useEffect(() => {
    if (!asks) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [asks]);
  const stay = () => blocker.reset?.();
  return (
    <Modal
      open={blocker.state === 'blocked'}
      onClose={stay}
      title={active ? 'Leave without saving?' : 'Leave before the upload is complete?'}
      description={active ? 'What you typed here would be lost.' : 'The file would not be on this page.'}
    >
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
          {active ? 'Leave without saving' : 'Leave without the file'}
        </Button>
      </div>
    </Modal>
  );
}
