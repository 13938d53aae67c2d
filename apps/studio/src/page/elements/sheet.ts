import type { ElementOf, ElementType } from '@ruta/core/elements';
import type { PageContext } from '@ruta/pages';

/** What the settings of one element are shown with; its words are edited on the page itself. */
export interface SheetProps<Type extends ElementType> {
  element: ElementOf<Type>;
  context: PageContext;
  change: (changes: Partial<Omit<ElementOf<Type>, 'id' | 'type'>>) => void;
}
