import type { ElementOf } from '@ruta/core';
import { usePage } from '../context';
import { WordsView } from '../WordsView';

export function DownloadsView({ element }: { element: ElementOf<'downloads'> }) {
  const { context, edit } = usePage();
  const files = context.order?.downloads ?? [];
  if (files.length === 0 && !edit) return null;
  return (
    <section className="panel" aria-label="Downloads">
      <h2 className="panel-title">
        <WordsView words={element.title} elementId={element.id} path={['title']} />
      </h2>
      {files.length === 0 ? <p className="text-small">The files of what was bought stand here.</p> : null}
      <ul className="downloads">
        {files.map((file) => (
          <li key={file.url}>
            <a href={file.url} download>
              {file.name}
            </a>
            <span className="text-small">
              {file.size}, from {file.from}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
