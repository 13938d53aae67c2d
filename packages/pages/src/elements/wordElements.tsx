import type { ElementOf } from '@ruta/core';
import { WordsView } from '../WordsView';

export function HeadlineView({ element }: { element: ElementOf<'headline'> }) {
  const Tag = `h${element.level}` as 'h1' | 'h2' | 'h3';
  return (
    <Tag className={`headline headline-${element.size}`}>
      <WordsView words={element.words} elementId={element.id} path={['words']} />
    </Tag>
  );
}

export function TextView({ element }: { element: ElementOf<'text'> }) {
  return (
    <p className={`text text-${element.style}`}>
      <WordsView words={element.words} elementId={element.id} path={['words']} />
    </p>
  );
}

export function ListView({ element }: { element: ElementOf<'list'> }) {
  const Tag = element.marker === 'number' ? 'ol' : 'ul';
  return (
    <Tag className={`list list-${element.marker}`}>
      {element.items.map((item, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: items have no identity of their own
        <li key={index}>
          <WordsView words={item} elementId={element.id} path={['items', index]} />
        </li>
      ))}
    </Tag>
  );
}

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

export function FaqView({ element }: { element: ElementOf<'faq'> }) {
  return (
    <div className="faq">
      {element.items.map((item, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: questions have no identity of their own
        <details key={index} open={index === 0}>
          <summary>{item.question}</summary>
          <p>
            <WordsView words={item.answer} elementId={element.id} path={['items', index, 'answer']} />
          </p>
        </details>
      ))}
    </div>
  );
}

export function GuaranteeView({ element }: { element: ElementOf<'guarantee'> }) {
  return (
    <div className="guarantee">
      <p>
        <strong>
          <WordsView words={element.title} elementId={element.id} path={['title']} />
        </strong>{' '}
        <WordsView words={element.words} elementId={element.id} path={['words']} />
      </p>
    </div>
  );
}
