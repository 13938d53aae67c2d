import type { PictureInfo } from '@ruta/core/catalog';
import type { Crop, Focus } from '@ruta/core/elements';
import type { CSSProperties } from 'react';
import { usePage } from '../context';

/** Addresses of a picture at every width it is kept at, as `srcset` wants them. */
function sourceSet(picture: PictureInfo, base: string, format: 'avif' | 'webp'): string {
  return picture.widths.map((width) => `${base}/media/${picture.id}/${width}.${format} ${width}w`).join(', ');
}

/** How the shown part of a picture fills its frame. */
export function cropStyle({ x, y, width, height }: Crop): CSSProperties {
  return {
    position: 'absolute',
    maxWidth: 'none',
    width: `${100 / width}%`,
    height: `${100 / height}%`,
    left: `${(-x / width) * 100}%`,
    top: `${(-y / height) * 100}%`,
  };
}

interface PhotoProps {
  picture: PictureInfo;
  alt: string;
  /** Widths at which it is shown, as `sizes` wants them. */
  sizes: string;
  className?: string;
  early?: boolean;
  focus?: Focus | undefined;
  crop?: Crop | undefined;
}

/** A stored picture in the format and width that fits the screen. */
export function Photo({ picture, alt, sizes, className, early, focus, crop }: PhotoProps) {
  const { assetBase } = usePage().context;
  const largest = picture.widths.at(-1) ?? picture.width;
  const style = crop ? cropStyle(crop) : focus ? { objectPosition: `${focus.x * 100}% ${focus.y * 100}%` } : undefined;
  return (
    <picture
      className={className}
      style={crop ? { aspectRatio: `${picture.width * crop.width}/${picture.height * crop.height}` } : undefined}
      data-cropped={crop ? '' : undefined}
    >
      <source type="image/avif" srcSet={sourceSet(picture, assetBase, 'avif')} sizes={sizes} />
      <img
        src={`${assetBase}/media/${picture.id}/${largest}.webp`}
        srcSet={sourceSet(picture, assetBase, 'webp')}
        sizes={sizes}
        width={picture.width}
        height={picture.height}
        alt={alt}
        style={style}
        loading={early ? undefined : 'lazy'}
        decoding="async"
      />
    </picture>
  );
}
