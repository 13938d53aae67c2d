import type { ElementOf } from '@ruta/core/elements';
import { WordsView } from '../WordsView';

export function StepsView({ element }: { element: ElementOf<'steps'> }) {
  return (
    <ol className={`steps steps-${element.arrangement}`}>
      {element.items.map((item, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: items have no identity of their own
        <li key={index}>
          <p className="item-title">
            <WordsView words={item.title} elementId={element.id} path={['items', index, 'title']} />
          </p>
          <p>
            <WordsView words={item.words} elementId={element.id} path={['items', index, 'words']} />
          </p>
        </li>
      ))}
    </ol>
  );
}
