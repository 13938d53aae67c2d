import type { DrawingName } from '@ruta/core/elements';
import { drawingOf } from './drawings';

/** One of the drawings that ship with Ruta, in the colours of where it stands. */
export function DrawingView({ name, label = '' }: { name: DrawingName; label?: string }) {
  const { width, height, shapes } = drawingOf(name);
  return (
    <svg
      className="drawing"
      viewBox={`0 0 ${width} ${height}`}
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
      // biome-ignore lint/security/noDangerouslySetInnerHtml: shapes that ship with Ruta, nothing that anybody typed
      dangerouslySetInnerHTML={{ __html: shapes }}
    />
  );
}
