import type { ElementOf } from '@ruta/core/elements';
import { WordsView } from '../WordsView';

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
