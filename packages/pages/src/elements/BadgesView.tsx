import type { ElementOf } from '@ruta/core/elements';
import { Icon } from '../icons';
import { WordsView } from '../WordsView';

export function BadgesView({ element }: { element: ElementOf<'badges'> }) {
  return (
    <ul className="badges">
      {element.items.map((item, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: items have no identity of their own
        <li key={index}>
          <Icon name={item.icon} size={20} />
          <span>
            <WordsView words={item.words} elementId={element.id} path={['items', index, 'words']} />
          </span>
        </li>
      ))}
    </ul>
  );
}
