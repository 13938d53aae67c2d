import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';

/** How long what the page offers still stands. Without script the moment itself is told. */
export function CountdownView({ element }: { element: ElementOf<'countdown'> }) {
  const { context, edit } = usePage();
  const { endsAt } = context;
  const label = <WordsView words={element.label} elementId={element.id} path={['label']} />;
  const ended = <WordsView words={element.ended} elementId={element.id} path={['ended']} />;
  if (edit) {
    return (
      <div className="countdown">
        <p>{label}</p>
        <p className="countdown-clock">{endsAt === null ? '–' : '14:59'}</p>
        <p className="text-small">Then: {ended}</p>
      </div>
    );
  }
  if (endsAt === null) return null;
  return (
    <div className="countdown" data-ends-at={endsAt.at} data-left={endsAt.at - endsAt.now}>
      <p data-running="">
        {label}{' '}
        <span className="countdown-clock" role="timer">
          until {endsAt.words}
        </span>
      </p>
      <p data-ended="" hidden>
        {ended}
      </p>
    </div>
  );
}
