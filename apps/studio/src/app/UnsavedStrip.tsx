import { useEffect, useLayoutEffect, useRef, useSyncExternalStore } from 'react';
import { Link } from 'react-router';
import { useAppDispatch, useAppSelector } from '../base/store';
import { sendUnsaved } from '../page/sendPages';
import { allUnsaved, forgetUnsaved, onUnsaved, unsavedNow } from '../page/unsaved';
import { Button } from '../ui/Button';

const RETRY_MS = 4000;

/** Sends pages that were left unsaved as soon as the server answers, and says which ones still wait or need a person. */
export function UnsavedStrip() {
  const dispatch = useAppDispatch();
  const openStepId = useAppSelector((state) => state.editor?.stepId ?? null);
  const kept = useSyncExternalStore(onUnsaved, unsavedNow);
  const waiting = allUnsaved().filter((entry) => entry.stepId !== openStepId);

  useEffect(() => {
    if (kept.length === 0) return;
    let ended = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const round = async () => {
      const again = await sendUnsaved(dispatch, openStepId);
      if (again && !ended) timer = setTimeout(round, RETRY_MS);
    };
    timer = setTimeout(round, RETRY_MS / 4);
    return () => {
      ended = true;
      clearTimeout(timer);
    };
  }, [kept, openStepId, dispatch]);

  // What stands above it gets so much less room, so that the strip covers nothing.
  const strip = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    document.documentElement.style.setProperty('--strip', `${waiting.length > 0 ? (strip.current?.offsetHeight ?? 0) : 0}px`);
  }, [waiting.length]);

  if (waiting.length === 0) return null;
  return (
    <aside ref={strip} aria-label="Not saved yet" className="fixed z-30 bottom-0 left-[84px] right-0 bg-way-tint border-t border-line px-5 py-2.5 grid gap-1.5">
      {waiting.map((entry) => (
        <div key={`${entry.stepId} ${entry.windowId}`} role="status" className="flex items-center gap-4">
          <span>
            <strong>“{entry.place.name}” is not saved yet.</strong>{' '}
            {entry.problem ?? 'What you changed is kept in this browser and is sent as soon as the server answers.'}
          </span>
          <Link to={`/funnels/${entry.place.funnelId}/page/${entry.stepId}`} className="ml-auto font-semibold">
            Open the page
          </Link>
          {entry.problem === null ? null : (
            <Button look="quiet" onClick={() => forgetUnsaved(entry)}>
              Drop these changes
            </Button>
          )}
        </div>
      ))}
    </aside>
  );
}
