import { useEffect } from 'react';
import { useStore } from 'react-redux';
import { currentToken, problemOf } from '../base/api';
import { type RootState, useAppDispatch } from '../base/store';
import { pageApi } from './api';
import { editorOf, saveBegan, saveDone, saveFailed, useEditor } from './editorSlice';

const QUIET_MS = 500;
const RETRY_MS = 4000;

/** Saves the page a moment after every change, tries again while the server is away, and once more on leaving. */
export function useAutosave(): void {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { stepId, changeNumber, savedNumber, saving, saveProblem } = useEditor();
  const [save] = pageApi.useSavePageMutation();

  useEffect(() => {
    if (!stepId || changeNumber === savedNumber || saving) return;
    const timer = setTimeout(
      async () => {
        const editor = editorOf(store.getState());
        if (!editor.page || editor.stepId !== stepId) return;
        dispatch(saveBegan());
        try {
          const { revision } = await save({ id: stepId, revision: editor.revision, page: editor.page }).unwrap();
          if (editorOf(store.getState()).stepId === stepId) dispatch(saveDone({ revision, changeNumber: editor.changeNumber, at: Date.now() }));
        } catch (error) {
          const problem = problemOf(error);
          const where = problem.errors[0];
          dispatch(saveFailed(where ? `Not saved: ${where.message} (${where.path})` : `Not saved: ${problem.title}`));
        }
      },
      saveProblem ? RETRY_MS : QUIET_MS,
    );
    return () => clearTimeout(timer);
  }, [stepId, changeNumber, savedNumber, saving, saveProblem, dispatch, save, store]);

  useEffect(() => {
    const onLeave = () => {
      const editor = editorOf(store.getState());
      if (!editor.page || editor.changeNumber === editor.savedNumber || editor.saving) return;
      // The window is closing: a request that outlives it carries what has not been saved yet.
      void fetch(`/api/steps/${editor.stepId}/page`, {
        method: 'PUT',
        keepalive: true,
        headers: { 'content-type': 'application/json', 'x-csrf-token': currentToken() ?? '' },
        body: JSON.stringify({ revision: editor.revision, page: editor.page }),
      });
    };
    addEventListener('pagehide', onLeave);
    return () => removeEventListener('pagehide', onLeave);
  }, [store]);
}
