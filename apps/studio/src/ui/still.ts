import type { EditHooks } from '@ruta/pages';

/** A page that is only looked at: what stands on it, with nothing around its parts. */
export const STILL: EditHooks = {
  frameSection: (_id, children) => children,
  frameElement: (_id, children) => children,
  columnEnd: () => null,
  editableWords: () => null,
};
