import type { ElementOf } from '@ruta/core/elements';
import { SayingView } from './SayingView';

export function TestimonialView({ element }: { element: ElementOf<'testimonial'> }) {
  return <SayingView saying={element} style={element.style ?? 'line'} elementId={element.id} path={[]} />;
}
