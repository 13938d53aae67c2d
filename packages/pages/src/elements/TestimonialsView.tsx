import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';
import { SayingView } from './SayingView';

/** Several people's words: beside each other, as a wall of unlike heights, or one after the other to be leafed through. */
export function TestimonialsView({ element }: { element: ElementOf<'testimonials'> }) {
  const { edit } = usePage();
  const items = element.items.map((saying, index) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: items have no identity of their own
    <li key={index}>
      <SayingView saying={saying} style={element.style} elementId={element.id} path={['items', index]} />
    </li>
  ));
  if (element.arrangement !== 'carousel') return <ul className={`sayings sayings-${element.arrangement}`}>{items}</ul>;
  return (
    <section className="carousel" aria-label="Testimonials" data-carousel="">
      <ul className="sayings sayings-carousel" tabIndex={edit ? undefined : 0} aria-label="Testimonials, one after the other">
        {items}
      </ul>
      <p className="carousel-buttons" hidden={!edit}>
        <button type="button" className="round-button" data-turn="-1" aria-label="The one before">
          ←
        </button>
        <button type="button" className="round-button" data-turn="1" aria-label="The next one">
          →
        </button>
      </p>
    </section>
  );
}
