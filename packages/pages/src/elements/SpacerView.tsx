import type { ElementOf } from '@ruta/core/elements';

export function SpacerView({ element }: { element: ElementOf<'spacer'> }) {
  return <div className={`spacer spacer-${element.size}`} aria-hidden="true" />;
}
