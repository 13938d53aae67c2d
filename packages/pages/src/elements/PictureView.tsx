import type { PictureInfo } from '@ruta/core/catalog';
import type { ElementOf, PictureSource } from '@ruta/core/elements';
import { type PageContext, usePage } from '../context';

/** The stored picture that a source stands for on this page. */
export function pictureOf(source: PictureSource | null, context: PageContext): PictureInfo | null {
  if (!source) return null;
  if (source.kind === 'file') return context.pictures[source.fileId] ?? null;
  return (source.kind === 'gift' ? context.gift : context.product)?.picture ?? null;
}

/** Addresses of a picture at every width it is kept at, as `srcset` wants them. */
function sourceSet(picture: PictureInfo, base: string, format: 'avif' | 'webp'): string {
  return picture.widths.map((width) => `${base}/media/${picture.id}/${width}.${format} ${width}w`).join(', ');
}

export function PictureView({ element }: { element: ElementOf<'picture'> }) {
  const { page, context, edit } = usePage();
  const picture = pictureOf(element.source, context);
  if (!picture) return edit ? <div className="picture-empty">No picture yet</div> : null;
  const span = page.sections.flatMap((section) => section.columns).find((column) => column.elements.includes(element))?.span ?? 12;
  const sizes = `(max-width: 720px) 92vw, ${Math.round((1080 * span) / 12)}px`;
  // The first two sections are on screen at once; whatever comes later loads when it is near.
  const early = page.sections.slice(0, 2).some((section) => section.columns.some((column) => column.elements.includes(element)));
  const largest = picture.widths.at(-1) ?? picture.width;
  return (
    <picture className={`picture picture-${element.shape}`}>
      <source type="image/avif" srcSet={sourceSet(picture, context.assetBase, 'avif')} sizes={sizes} />
      <img
        src={`${context.assetBase}/media/${picture.id}/${largest}.webp`}
        srcSet={sourceSet(picture, context.assetBase, 'webp')}
        sizes={sizes}
        width={picture.width}
        height={picture.height}
        alt={element.alt}
        loading={early ? undefined : 'lazy'}
        decoding="async"
      />
    </picture>
  );
}
