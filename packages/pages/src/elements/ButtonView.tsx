import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';

export function ButtonView({ element }: { element: ElementOf<'button'> }) {
  const { context, edit } = usePage();
  const content = <WordsView words={element.words} elementId={element.id} path={['words']} isLabel />;
  const className = `button button-${element.style}`;
  // While edited a click selects instead of leading away, so there the button is no link.
  if (edit) return <span className={className}>{content}</span>;
  if (context.sendsTo !== undefined)
    return (
      <form method="post" action={context.sendsTo}>
        <button className={className} type="submit">
          {content}
        </button>
      </form>
    );
  return (
    <a className={className} href={context.href(element.action, element.id)}>
      {content}
    </a>
  );
}
