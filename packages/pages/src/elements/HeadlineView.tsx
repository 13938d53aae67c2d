import type { ElementOf } from '@ruta/core/elements';
import { WordsView } from '../WordsView';

export function HeadlineView({ element }: { element: ElementOf<'headline'> }) {
  const Tag = `h${element.level}` as 'h1' | 'h2' | 'h3';
  return (
    <Tag className={`headline headline-${element.size}`}>
      <WordsView words={element.words} elementId={element.id} path={['words']} />
    </Tag>
  );
}
