import type { ElementOf } from '@ruta/core/elements';
import { WordsView } from '../WordsView';

export function TextView({ element }: { element: ElementOf<'text'> }) {
  return (
    <p className={`text text-${element.style}`}>
      <WordsView words={element.words} elementId={element.id} path={['words']} />
    </p>
  );
}
