import type { EditHooks } from '@ruta/pages';

/** A page that is only looked at: what stands on it, with nothing around its parts. */
export const STILL: EditHooks = {
  frameSection: (section, box, row) => (
    <div key={section.id} {...box}>
      {row}
    </div>
  ),
  frameElement: (_element, children) => children,
  columnEnd: () => null,
  editableWords: () => null,
};
