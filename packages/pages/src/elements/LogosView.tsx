import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';
import { Photo } from './Photo';

export function LogosView({ element }: { element: ElementOf<'logos'> }) {
  const { context } = usePage();
  return (
    <div className={`logos${element.inColour ? '' : ' logos-grey'}`}>
      <p className="text-small">
        <WordsView words={element.label} elementId={element.id} path={['label']} />
      </p>
      <ul>
        {element.items.map((item, index) => {
          const picture = item.pictureId ? context.pictures[item.pictureId] : undefined;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: items have no identity of their own
            <li key={index}>{picture ? <Photo picture={picture} alt={item.name} sizes="160px" /> : item.name}</li>
          );
        })}
      </ul>
    </div>
  );
}
