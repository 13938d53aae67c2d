import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';
import { LogoView } from './LogoView';

/** Links in a row; on a phone they stand behind one word, which needs no script. */
export function NavigationView({ element }: { element: ElementOf<'navigation'> }) {
  const { context, edit } = usePage();
  const links = element.items.map((item, index) => {
    const words = <WordsView words={item.label} elementId={element.id} path={['items', index, 'label']} isLabel />;
    const className = item.style === 'button' ? 'button button-main' : 'navigation-link';
    return (
      // biome-ignore lint/suspicious/noArrayIndexKey: links have no identity of their own
      <li key={index}>
        {edit ? (
          <span className={className}>{words}</span>
        ) : (
          <a className={className} href={context.href(item.action, element.id, { part: index })}>
            {words}
          </a>
        )}
      </li>
    );
  });
  return (
    <nav className="navigation" aria-label="On this site">
      {element.withLogo ? <LogoView /> : null}
      <ul className="navigation-wide">{links}</ul>
      <details className="navigation-narrow">
        <summary>Menu</summary>
        <ul>{links}</ul>
      </details>
    </nav>
  );
}
