import type { Layout, Sizes } from '@ruta/core/elements';
import { SCREEN_SIZES } from '@ruta/core/elements';
import type { Column, Section } from '@ruta/core/page';

/** Classes of what differs on one size of screen; the rules stand in `layoutCss`. */
export function sizeClasses(sizes: Sizes | undefined): string[] {
  if (!sizes) return [];
  return SCREEN_SIZES.flatMap((size) => {
    const change = sizes[size];
    if (!change) return [];
    const { hide, order, scale, space, align } = change;
    return [
      hide ? `${size}-hide` : '',
      order === undefined ? '' : `${size}-order-${order}`,
      scale ? `${size}-scale-${scale}` : '',
      space ? `${size}-space-${space}` : '',
      align ? `${size}-align-${align}` : '',
    ].filter(Boolean);
  });
}

/** Classes of the frame an element stands in; empty for one that stands as usual. */
export function layoutClasses(layout: Layout | undefined): string {
  if (!layout) return '';
  const { space, scale, align, width, panel, sizes } = layout;
  const own = [
    space ? `above-${space}` : '',
    scale ? `scale-${scale}` : '',
    align ? `to-${align}` : '',
    width ? `share-${width}` : '',
    panel ? `stand stand-${panel}` : '',
    ...sizeClasses(sizes),
  ].filter(Boolean);
  return own.length > 0 ? ['layout', ...own].join(' ') : '';
}

export function columnClasses({ span, panel, sizes }: Pick<Column, 'span' | 'panel' | 'sizes'>): string {
  return ['column', `span-${span}`, ...(panel ? ['stand', `stand-${panel}`] : []), ...sizeClasses(sizes)].join(' ');
}

export function sectionClasses(section: Section, hasBackdrop: boolean): string {
  const { ground, space, align, width, pattern, inset, overlap, tall, place, veil, sizes } = section;
  return [
    `ground-${ground}`,
    `space-${space}`,
    `align-${align}`,
    `width-${width}`,
    pattern ? `pattern pattern-${pattern}` : '',
    inset ? 'inset' : '',
    overlap ? 'overlap' : '',
    tall ? 'tall' : '',
    place ? `place-${place}` : '',
    hasBackdrop && veil && veil !== 'none' ? `veil veil-${veil}` : '',
    ...sizeClasses(sizes),
  ]
    .filter(Boolean)
    .join(' ');
}
