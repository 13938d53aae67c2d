import { useEffect } from 'react';
import { useStore } from 'react-redux';
import { api, currentToken, problemOf } from '../app/api';
import { type RootState, useAppDispatch, useAppSelector } from '../app/store';
import { saveBegan, saveDone, saveFailed } from './editorSlice';

const QUIET_MS = 500;
const RETRY_MS = 4000;

/** Saves the page a moment after every change, tries again while the server is away, and once more on leaving. */
export function useAutosave(): void {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { stepId, changeNumber, savedNumber, saving, saveProblem } = useAppSelector((state) => state.editor);
  const [save] = api.useSavePageMutation();

  useEffect(() => {
    if (!stepId || changeNumber === savedNumber || saving) return;
    const timer = setTimeout(
      async () => {
        const { editor } = store.getState();
        if (!editor.page || editor.stepId !== stepId) return;
        dispatch(saveBegan());
        try {
          const { revision } = await save({ id: stepId, revision: editor.revision, page: editor.page }).unwrap();
          if (store.getState().editor.stepId === stepId) dispatch(saveDone({ revision, changeNumber: editor.changeNumber, at: Date.now() }));
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
      const { editor } = store.getState();
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
