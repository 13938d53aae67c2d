import type { PictureInfo } from '@ruta/core/catalog';
import type { ElementOf, PictureSource } from '@ruta/core/elements';
import { type PageContext, usePage, usePlace } from '../context';
import { DrawingView } from '../DrawingView';
import { WordsView } from '../WordsView';
import { Photo } from './Photo';

/** The stored picture that a source stands for on this page; a drawing is none. */
export function pictureOf(source: PictureSource | null, context: PageContext): PictureInfo | null {
  if (!source || source.kind === 'drawing') return null;
  if (source.kind === 'file') return context.pictures[source.fileId] ?? null;
  return (source.kind === 'gift' ? context.gift : context.product)?.picture ?? null;
}

export function PictureView({ element }: { element: ElementOf<'picture'> }) {
  const { context, edit } = usePage();
  const { span, isEarly } = usePlace();
  const { source, shape, action, caption } = element;
  const picture = pictureOf(source, context);
  if (!picture && source?.kind !== 'drawing') return edit ? <div className="picture-empty">No picture yet</div> : null;
  const className = `picture picture-${shape}`;
  const shown = picture ? (
    <Photo
      picture={picture}
      alt={element.alt}
      sizes={`(max-width: 720px) 92vw, ${Math.round((1080 * span) / 12)}px`}
      className={className}
      early={isEarly}
      focus={element.focus}
      crop={element.crop}
    />
  ) : source?.kind === 'drawing' ? (
    <span className={`${className} picture-drawn`}>
      <DrawingView name={source.name} label={element.alt} />
    </span>
  ) : null;
  const linked =
    action && !edit ? (
      <a className="picture-link" href={context.href(action, element.id)} aria-label={element.alt || 'Go on'}>
        {shown}
      </a>
    ) : (
      shown
    );
  if (!caption) return linked;
  return (
    <figure className="captioned">
      {linked}
      <figcaption className="text-small">
        <WordsView words={caption} elementId={element.id} path={['caption']} />
      </figcaption>
    </figure>
  );
}
