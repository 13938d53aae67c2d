import { type ElementOf, isVideoFile } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';
import { Photo } from './Photo';

/** A video that loads nothing from elsewhere before it is asked for; without script it is a link. */
export function VideoView({ element }: { element: ElementOf<'video'> }) {
  const { context, edit } = usePage();
  const { source, title, shape } = element;
  const poster = element.posterId ? context.pictures[element.posterId] : undefined;
  const label = title || 'Video';
  const face = (
    <>
      {poster ? (
        <Photo picture={poster} alt="" sizes="(max-width: 720px) 92vw, 800px" className="video-poster" />
      ) : (
        <span className="video-title">{label}</span>
      )}
      <span className="video-play" aria-hidden="true" />
    </>
  );
  const caption = (
    <figcaption className="text-small">
      <WordsView words={element.caption} elementId={element.id} path={['caption']} />
    </figcaption>
  );
  if (!source && !edit) return null;
  const address = source ? (source.kind === 'file' ? `${context.assetBase}/video/${source.fileId}` : source.url) : '';
  const isFile = source?.kind === 'file' || isVideoFile(address);
  return (
    <figure className={`video video-${shape}`}>
      {edit ? (
        <div className="video-frame">{source ? face : <span className="video-title">No video yet</span>}</div>
      ) : (
        <a className="video-frame" href={address} data-video={isFile ? 'file' : 'player'} aria-label={`Play: ${label}`}>
          {face}
        </a>
      )}
      {element.caption.length > 0 || edit ? caption : null}
    </figure>
  );
}
