import type { Saying, TESTIMONIAL_STYLES } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';
import { Photo } from './Photo';

interface SayingProps {
  saying: Saying;
  style: (typeof TESTIMONIAL_STYLES)[number];
  elementId: string;
  path: Array<string | number>;
}

/** What somebody said, and who they are. */
export function SayingView({ saying, style, elementId, path }: SayingProps) {
  const { context, edit } = usePage();
  const portrait = saying.pictureId ? context.pictures[saying.pictureId] : undefined;
  return (
    <figure className={`testimonial testimonial-${style}`}>
      {saying.stars ? (
        <p className="stars" role="img" aria-label={`${saying.stars} of 5 stars`}>
          {'★'.repeat(saying.stars)}
          <span className="stars-off">{'★'.repeat(5 - saying.stars)}</span>
        </p>
      ) : null}
      <blockquote>
        <p>
          <WordsView words={saying.words} elementId={elementId} path={[...path, 'words']} />
        </p>
      </blockquote>
      <figcaption>
        {portrait ? <Photo picture={portrait} alt="" sizes="56px" className="portrait" /> : null}
        <span>
          <strong>{saying.name || (edit ? 'Whose words are these?' : '')}</strong>
          {saying.detail ? `${saying.name ? ', ' : ''}${saying.detail}` : ''}
        </span>
      </figcaption>
    </figure>
  );
}
