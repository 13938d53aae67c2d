import type { EditHooks } from '@ruta/pages';

/** A page that is only looked at: what stands on it, with nothing around its parts. */
export const STILL: EditHooks = {
  frameSection: (_section, children) => children,
  frameElement: (_element, children) => children,
  columnEnd: () => null,
  editableWords: () => null,
};
