import type { ElementOf } from '@ruta/core/elements';
import { WordsView } from '../WordsView';

export function ProgressView({ element }: { element: ElementOf<'progress'> }) {
  return (
    <ol className="progress" aria-label="How far you are">
      {element.steps.map((step, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps have no identity of their own
        <li key={index} className={index < element.current ? 'done' : undefined} aria-current={index === element.current ? 'step' : undefined}>
          <span>
            <WordsView words={step} elementId={element.id} path={['steps', index]} />
          </span>
        </li>
      ))}
    </ol>
  );
}
