import { placeOnPage } from '@ruta/core/page';
import { useCallback, useEffect } from 'react';
import { useStore } from 'react-redux';
import { currentToken, problemOf } from '../base/api';
import { type RootState, type store as studio, useAppDispatch } from '../base/store';
import { pageApi } from './api';
import { conflictMet, editorOf, editsJoined, isAllSaved, saveBegan, saveDone, saveFailed, useEditor } from './editorSlice';
import { sendPage, sendUnsaved } from './sendPages';
import { joined, standingOf } from './standing';
import { unsavedPages } from './unsaved';

const QUIET_MS = 500;
const RETRY_MS = 4000;
/** A request that outlives its window may carry no more than this; larger pages are sent after the reload. */
const KEEPALIVE_BYTES = 60_000;

/**
 * Saves the page a moment after every change and tries again while the server is away. Whatever is not saved when the
 * page is left, whichever way, is set aside in the browser first and sent from there.
 * @returns sets aside what is not saved; to be called before another page is opened
 */
export function useAutosave(): () => void {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { stepId, changeNumber, savedNumber, saving, saveProblem, conflict } = useEditor();

  useEffect(() => {
    if (!stepId || changeNumber === savedNumber || saving || conflict) return;
    const timer = setTimeout(() => void saveOpen(dispatch, store.getState), saveProblem ? RETRY_MS : QUIET_MS);
    return () => clearTimeout(timer);
  }, [stepId, changeNumber, savedNumber, saving, saveProblem, conflict, dispatch, store]);

  const setAside = useCallback(() => {
    if (keepOpen(store.getState)) void sendUnsaved(dispatch, null);
  }, [dispatch, store]);

  useEffect(() => {
    const onLeave = () => {
      keepOpen(store.getState);
      const editor = editorOf(store.getState());
      if (!editor.page || isAllSaved(editor) || editor.conflict || editor.saving) return;
      const body = JSON.stringify({ revision: editor.revision, page: editor.page });
      if (new Blob([body]).size > KEEPALIVE_BYTES) return;
      // The window is closing: a request that outlives it carries what has not been saved yet.
      void fetch(`/api/steps/${editor.stepId}/page`, {
        method: 'PUT',
        keepalive: true,
        headers: { 'content-type': 'application/json', 'x-csrf-token': currentToken() ?? '' },
        body,
      }).catch(() => {
        // It stands in the browser's storage and is sent when the studio is opened again.
      });
    };
    addEventListener('pagehide', onLeave);
    return () => removeEventListener('pagehide', onLeave);
  }, [store]);
  return setAside;
}

/** Sets aside what of the open page the server does not have. @returns whether there was something */
function keepOpen(state: () => RootState): boolean {
  const { stepId, place, page, base, revision, pictures, sending, ...editor } = editorOf(state());
  if (!stepId || !page || isAllSaved(editor)) return false;
  unsavedPages.keep({ stepId, place, page, base, revision, pictures, sending });
  return true;
}

async function saveOpen(dispatch: typeof studio.dispatch, state: () => RootState): Promise<void> {
  const { stepId, place, page, revision, changeNumber, pictures } = editorOf(state());
  if (!stepId || !page) return;
  const isOpen = () => editorOf(state()).stepId === stepId;
  dispatch(saveBegan());
  try {
    const next = await sendPage(dispatch, stepId, revision, page);
    // Left meanwhile: what was set aside then looks after itself.
    if (!isOpen()) return;
    dispatch(saveDone({ revision: next, changeNumber, at: Date.now() }));
    if (isAllSaved(editorOf(state()))) unsavedPages.forget(stepId);
  } catch (error) {
    if (!isOpen()) return;
    const problem = problemOf(error);
    unsavedPages.keep({ stepId, place, page: editorOf(state()).page ?? page, base: editorOf(state()).base, revision, pictures, sending: page });
    if (problem.status === 409 && (await meetOther(dispatch, state, stepId))) return;
    const where = problem.errors[0];
    dispatch(saveFailed(where ? `Not saved: ${where.message} (${placeOnPage(page, where.path)})` : `Not saved: ${problem.title}`));
  }
}

/** The server has another revision of the open page: our own that arrived unseen, or another window's. @returns whether that is settled or shown */
async function meetOther(dispatch: typeof studio.dispatch, state: () => RootState, stepId: string): Promise<boolean> {
  const server = await dispatch(pageApi.endpoints.stepPage.initiate(stepId, { forceRefetch: true, subscribe: false }))
    .unwrap()
    .catch(() => null);
  const editor = editorOf(state());
  if (!server || editor.stepId !== stepId || !editor.page) return false;
  const standing = standingOf({ revision: editor.revision, page: editor.page, sending: editor.sending }, server);
  const both = standing === 'conflicts' ? joined({ base: editor.base, page: editor.page }, server) : null;
  if (both) dispatch(editsJoined({ page: both, server }));
  else if (standing === 'conflicts') dispatch(conflictMet(server));
  else dispatch(saveDone({ revision: server.revision, changeNumber: standing === 'arrived' ? editor.changeNumber : editor.savedNumber, at: Date.now() }));
  return true;
}
