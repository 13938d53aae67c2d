import type { PictureInfo } from '@ruta/core/catalog';
import { inArm, splitArm } from '@ruta/core/experiments';
import type { Step } from '@ruta/core/funnel';
import { applyOperation, type Operation, type PageDocument } from '@ruta/core/page';
import { useCallback, useSyncExternalStore } from 'react';
import { useAppDispatch } from '../base/store';
import { pageApi } from './api';
import { sendUnsaved } from './sendPages';
import { unsavedPages } from './unsaved';

/**
 * A stop's page, to look at or to change a little of it from outside its editor. What is changed is kept in the browser
 * until the server has it, as everything that is typed on pages.
 */
export function usePageHand(step: Step, funnelId: string) {
  const dispatch = useAppDispatch();
  const { armId } = splitArm(funnelId);
  const key = armId === null ? step.id : inArm(step.id, armId);
  const { data, error, refetch } = pageApi.useStepPageQuery(key);
  const kept = useSyncExternalStore(unsavedPages.subscribe, () => unsavedPages.own(key));
  const page: PageDocument | undefined = kept?.page ?? data?.page;
  const change = useCallback(
    (operation: Operation) => {
      const own = unsavedPages.own(key);
      const before = own ?? data;
      if (!before) return;
      const { page: changed } = applyOperation(before.page, operation);
      const { revision, pictures } = before;
      unsavedPages.keep({
        stepId: key,
        place: { funnelId, name: step.name },
        revision,
        page: changed,
        base: own ? own.base : before.page,
        pictures,
        sending: null,
      });
      void sendUnsaved(dispatch, null);
    },
    [dispatch, data, key, step.name, funnelId],
  );
  /** Knows of a picture that was just uploaded for this stop. */
  const addPicture = useCallback(
    (picture: PictureInfo) =>
      dispatch(pageApi.util.updateQueryData('stepPage', key, (known) => ({ ...known, pictures: { ...known.pictures, [picture.id]: picture } }))),
    [dispatch, key],
  );
  return { page, pictures: data?.pictures, error, refetch, change, addPicture };
}
