import { type ElementOf, SHARE_WAYS, type ShareWay } from '@ruta/core/elements';
import { usePage, useWholePage } from '../context';
import { WordsView } from '../WordsView';

/** Passing a page on: nothing is loaded from elsewhere, and nobody is told. */
export function ShareView({ element }: { element: ElementOf<'share'> }) {
  const { context, edit } = usePage();
  const page = useWholePage();
  const address = context.sharedAddress(element.stepId);
  const mail = `mailto:?subject=${encodeURIComponent(page.title)}&body=${encodeURIComponent([element.message, address].filter(Boolean).join('\n\n'))}`;
  const way = (kind: ShareWay) => {
    const words = SHARE_WAYS[kind];
    if (edit) return <span className="button button-quiet">{words}</span>;
    if (kind === 'mail')
      return (
        <a className="button button-quiet" href={mail}>
          {words}
        </a>
      );
    // Both need script, which brings them into sight.
    return (
      <button type="button" className="button button-quiet" data-share={kind} hidden>
        {words}
      </button>
    );
  };
  return (
    <div className="share panel" data-share-address={address} data-share-message={element.message} data-share-title={page.title}>
      <p className="item-title">
        <WordsView words={element.label} elementId={element.id} path={['label']} />
      </p>
      <p className="share-address">{address}</p>
      <p className="share-ways">
        {element.ways.map((kind) => (
          <span key={kind}>{way(kind)}</span>
        ))}
      </p>
      <p className="text-small" role="status" />
    </div>
  );
}
