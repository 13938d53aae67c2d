import { splitArm } from '@ruta/core/experiments';
import { TriangleAlert } from 'lucide-react';
import { useEffect, useLayoutEffect, useRef, useState, useSyncExternalStore } from 'react';
import { useStore } from 'react-redux';
import { Link } from 'react-router';
import { type RootState, useAppDispatch, useAppSelector } from '../base/store';
import { unsavedMaps } from '../funnel/unsavedMap';
import { sendUnsaved } from '../page/sendPages';
import { unsavedPages } from '../page/unsaved';
import { Button } from '../ui/Button';

const RETRY_MS = 4000;
const WORTH_TELLING_MS = 1200;

/** What maps are changed with is fetched when there is one to send: most who sign in have none. */
async function sendMapsLater(...parts: Parameters<typeof import('../funnel/sendMaps').sendLeftMaps>): Promise<boolean> {
  try {
    return await (await import('../funnel/sendMaps')).sendLeftMaps(...parts);
  } catch {
    // The server is away, with the files of the studio too: tried again.
    return true;
  }
}

interface Waiting {
  key: string;
  name: string;
  problem: string | null;
  at: number;
  link: { to: string; name: string };
  drop: () => void;
}

/** Pages and maps that were left unsaved, as the strip lists them. */
function waitingOf(openStepId: string | null, openFunnelId: string | null): Waiting[] {
  const pages = unsavedPages
    .all()
    .filter((entry) => entry.stepId !== openStepId)
    .map((entry) => ({
      key: `${entry.stepId} ${entry.windowId}`,
      name: entry.place.name,
      problem: entry.problem,
      at: entry.at,
      link: { to: `/funnels/${entry.place.funnelId}/page/${splitArm(entry.stepId).id}`, name: 'Open the page' },
      drop: () => unsavedPages.forget(entry.stepId, entry.windowId),
    }));
  const maps = unsavedMaps
    .all()
    .filter((entry) => entry.funnelId !== openFunnelId)
    .map((entry) => ({
      key: `${entry.funnelId} ${entry.windowId}`,
      name: entry.name,
      problem: entry.problem,
      at: entry.at,
      link: { to: `/funnels/${entry.funnelId}/map`, name: 'Open the map' },
      drop: () => unsavedMaps.forget(entry.funnelId, entry.windowId),
    }));
  return [...pages, ...maps];
}

/** Sends pages and maps that were left unsaved as soon as the server answers, and says which still wait or need a person. */
export function UnsavedStrip() {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const openStepId = useAppSelector((state) => state.editor?.stepId ?? null);
  const openFunnelId = useAppSelector((state) => state.map?.funnelId ?? null);
  const keptPages = useSyncExternalStore(unsavedPages.subscribe, unsavedPages.seen);
  const keptMaps = useSyncExternalStore(unsavedMaps.subscribe, unsavedMaps.seen);
  const [now, setNow] = useState(Date.now);
  const kept = waitingOf(openStepId, openFunnelId);
  const canBeSent = kept.some(({ problem }) => problem === null);
  // What is on its way for a moment only is not worth a word.
  const waiting = kept.filter(({ problem, at }) => problem !== null || now - at >= WORTH_TELLING_MS);

  // biome-ignore lint/correctness/useExhaustiveDependencies: looked at again a while after something was kept
  useEffect(() => {
    const timer = setTimeout(() => setNow(Date.now()), WORTH_TELLING_MS);
    return () => clearTimeout(timer);
  }, [keptPages, keptMaps]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: begun anew whenever something else is kept
  useEffect(() => {
    if (!canBeSent) return;
    let ended = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const round = async () => {
      const pages = await sendUnsaved(dispatch, openStepId);
      const maps = keptMaps.length > 0 && (await sendMapsLater(dispatch, store.getState));
      if ((pages || maps) && !ended) timer = setTimeout(round, RETRY_MS);
    };
    timer = setTimeout(round, RETRY_MS / 4);
    return () => {
      ended = true;
      clearTimeout(timer);
    };
  }, [canBeSent, keptPages, keptMaps, openStepId, dispatch, store]);

  // What stands above it gets so much less room, so that the strip covers nothing.
  const strip = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    document.documentElement.style.setProperty('--strip', `${waiting.length > 0 ? (strip.current?.offsetHeight ?? 0) : 0}px`);
  }, [waiting.length]);

  if (waiting.length === 0) return null;
  return (
    <aside
      ref={strip}
      aria-label="Not saved yet"
      className="fixed z-30 bottom-0 left-[6rem] max-md:left-[3.75rem] right-0 bg-care-tint border-t border-care px-5 py-2.5 grid gap-1.5"
    >
      {waiting.map(({ key, name, problem, link, drop }) => (
        <div key={key} role="status" className="flex items-center gap-4">
          <TriangleAlert size={18} className="shrink-0 text-care" aria-hidden="true" />
          <span>
            <strong>“{name}” is not saved yet.</strong> {problem ?? 'What you changed is kept in this browser and is sent as soon as the server answers.'}
          </span>
          <Link to={link.to} className="ml-auto font-semibold">
            {link.name}
          </Link>
          {problem === null ? null : (
            <Button look="quiet" onClick={drop}>
              Drop these changes
            </Button>
          )}
        </div>
      ))}
    </aside>
  );
}
