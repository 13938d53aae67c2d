import type { ElementOf } from '@ruta/core/elements';
import { WordsView } from '../WordsView';

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
