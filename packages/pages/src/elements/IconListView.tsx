import type { ElementOf } from '@ruta/core/elements';
import { Icon } from '../icons';
import { WordsView } from '../WordsView';

export function IconListView({ element }: { element: ElementOf<'icon-list'> }) {
  return (
    <ul className={`icon-list icon-list-${element.arrangement} icons-${element.look}`}>
      {element.items.map((item, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: items have no identity of their own
        <li key={index}>
          <span className="icon-mark">
            <Icon name={item.icon} />
          </span>
          <div>
            <p className="item-title">
              <WordsView words={item.title} elementId={element.id} path={['items', index, 'title']} />
            </p>
            <p>
              <WordsView words={item.words} elementId={element.id} path={['items', index, 'words']} />
            </p>
          </div>
        </li>
      ))}
    </ul>
  );
}
