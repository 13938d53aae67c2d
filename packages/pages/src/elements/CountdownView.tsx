import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';

/** How long what the page offers, or what the page itself names, still stands. Without script the moment itself is told. */
export function CountdownView({ element }: { element: ElementOf<'countdown'> }) {
  const { context, edit } = usePage();
  const endsAt = element.until ? context.endOf(element.until.at) : context.endsAt;
  const label = <WordsView words={element.label} elementId={element.id} path={['label']} />;
  const ended = <WordsView words={element.ended} elementId={element.id} path={['ended']} />;
  if (edit) {
    return (
      <div className="countdown">
        <p>{label}</p>
        <p className="countdown-clock">{endsAt === null ? '–' : '14:59'}</p>
        {element.until?.afterwards === 'hide' ? <p className="text-small">Then it is gone.</p> : <p className="text-small">Then: {ended}</p>}
      </div>
    );
  }
  const isOver = endsAt !== null && endsAt.at <= endsAt.now;
  if (endsAt === null || (isOver && element.until?.afterwards === 'hide')) return null;
  if (isOver && element.until) return <p className="countdown">{ended}</p>;
  return (
    <div className="countdown" data-ends-at={endsAt.at} data-left={endsAt.at - endsAt.now}>
      <p data-running="">
        {label}{' '}
        <span className="countdown-clock" role="timer">
          until {endsAt.words}
        </span>
      </p>
      {element.until?.afterwards === 'hide' ? null : (
        <p data-ended="" hidden>
          {ended}
        </p>
      )}
    </div>
  );
}
