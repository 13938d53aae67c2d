import type { ElementOf } from '@ruta/core/elements';
import { WordsView } from '../WordsView';

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
