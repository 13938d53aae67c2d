import type { ElementOf } from '@ruta/core/elements';
import { WordsView } from '../WordsView';

export function TestimonialView({ element }: { element: ElementOf<'testimonial'> }) {
  return (
    <figure className="testimonial">
      <blockquote>
        <p>
          <WordsView words={element.words} elementId={element.id} path={['words']} />
        </p>
      </blockquote>
      <figcaption>
        <strong>{element.name}</strong>
        {element.detail ? `, ${element.detail}` : ''}
      </figcaption>
    </figure>
  );
}
