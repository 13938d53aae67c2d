import type { PageDocument, StepPage } from '@ruta/core/page';
import { problemOf } from '../base/api';
import type { store } from '../base/store';
import { pageApi } from './api';
import { joined, standingOf } from './standing';
import { type Unsaved, unsavedPages } from './unsaved';

type Dispatch = typeof store.dispatch;

/** The save of each page that is under way: one at a time, since each makes the revision that the next one builds on. */
const lines = new Map<string, Promise<unknown>>();
/** Which revision each page's own last save made of which: what was set aside meanwhile was made on the former. */
const advanced = new Map<string, { from: number; to: number }>();

/**
 * Saves a page, after whatever of it is still on its way.
 * @param revision the server's revision that it was made on
 * @returns the revision it is now
 * @throws what the server refused it with
 */
export function sendPage(dispatch: Dispatch, stepId: string, revision: number, page: PageDocument): Promise<number> {
  const before = lines.get(stepId) ?? Promise.resolve();
  const sent = before
    .catch(() => undefined)
    .then(async () => {
      const own = advanced.get(stepId);
      const base = own?.from === revision ? own.to : revision;
      const done = await dispatch(pageApi.endpoints.savePage.initiate({ id: stepId, revision: base, page }, { track: false })).unwrap();
      advanced.set(stepId, { from: revision, to: done.revision });
      // Wherever else the page is looked at, it is this one now.
      dispatch(pageApi.util.updateQueryData('stepPage', stepId, (known) => ({ ...known, page, revision: done.revision })));
      return done.revision;
    });
  lines.set(stepId, sent);
  return sent;
}

const loadPage = (dispatch: Dispatch, stepId: string): Promise<StepPage> =>
  dispatch(pageApi.endpoints.stepPage.initiate(stepId, { forceRefetch: true, subscribe: false })).unwrap();

let round: Promise<boolean> | null = null;

/**
 * Sends everything that was set aside, except a page that is open: the editor saves that itself.
 * One round at a time, so that nothing is sent twice.
 * @returns whether something is left that can be tried again
 */
export function sendUnsaved(dispatch: Dispatch, openStepId: string | null): Promise<boolean> {
  round ??= sendRound(dispatch, openStepId).finally(() => {
    round = null;
  });
  return round;
}

async function sendRound(dispatch: Dispatch, openStepId: string | null): Promise<boolean> {
  let again = false;
  for (const entry of unsavedPages.all()) {
    if (entry.stepId === openStepId || entry.problem !== null) continue;
    try {
      await sendPage(dispatch, entry.stepId, entry.revision, entry.page);
      forgetSent(entry);
    } catch (error) {
      const problem = problemOf(error);
      if (problem.status === 409) await meet(dispatch, entry).catch(() => undefined);
      else if (problem.status === 0 || problem.status === 401 || problem.status >= 500) again = true;
      else leaveToPerson(entry, problem.errors[0]?.message ?? problem.title);
    }
  }
  return again || unsavedPages.all().some((entry) => entry.problem === null && entry.stepId !== openStepId);
}

/** The server has another revision: perhaps our own, which arrived although no answer came. */
async function meet(dispatch: Dispatch, entry: Unsaved): Promise<void> {
  const server = await loadPage(dispatch, entry.stepId);
  const standing = standingOf(entry, server);
  if (standing === 'arrived') forgetSent(entry);
  else if (standing === 'follows') {
    await sendPage(dispatch, entry.stepId, server.revision, entry.page);
    forgetSent(entry);
  } else {
    const both = joined(entry, server);
    if (both) {
      await sendPage(dispatch, entry.stepId, server.revision, both);
      forgetSent(entry);
    } else leaveToPerson(entry, 'It was changed in another window meanwhile. Open it to see both versions.');
  }
}

/** The server has it; what was set aside of the page while it was on its way stays and is sent next. */
function forgetSent(entry: Unsaved): void {
  if (unsavedPages.isNewest(entry)) unsavedPages.forget(entry.stepId, entry.windowId);
}

/** Keeps an entry for a person to decide: nothing more is tried by itself. */
function leaveToPerson(entry: Unsaved, problem: string): void {
  if (!unsavedPages.isNewest(entry)) return;
  unsavedPages.forget(entry.stepId, entry.windowId);
  unsavedPages.keep({ ...entry, problem });
}
