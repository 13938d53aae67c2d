import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';

export function TestimonialView({ element }: { element: ElementOf<'testimonial'> }) {
  const { edit } = usePage();
  return (
    <figure className="testimonial">
      <blockquote>
        <p>
          <WordsView words={element.words} elementId={element.id} path={['words']} />
        </p>
      </blockquote>
      <figcaption>
        <strong>{element.name || (edit ? 'Whose words are these?' : '')}</strong>
        {element.detail ? `${element.name ? ', ' : ''}${element.detail}` : ''}
      </figcaption>
    </figure>
  );
}
