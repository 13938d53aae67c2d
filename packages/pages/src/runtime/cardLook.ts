/** What the card processor's frame is told of the page around it, so that its fields look like the page's own; lengths in pixels. */
export interface CardLook {
  /** Of a field's name. */
  label: { color: string; size: string; weight: string };
  /** Of a field. */
  field: { color: string; ground: string; line: string; corner: string };
  focus: string;
  /** The size of text that all others follow, and its typeface. */
  root: string;
  family: string;
  /** Files of the typeface, as addresses of this site. */
  faces: string[];
}

/** Looks at a field as it would be here: the page's look, its section's ground, and the size of text that was chosen all have their say. */
export function lookHere(holder: HTMLElement): CardLook {
  const probe = document.createElement('div');
  probe.className = 'field unseen';
  probe.setAttribute('aria-hidden', 'true');
  probe.innerHTML = '<label>.</label><input tabindex="-1">';
  holder.append(probe);
  const label = getComputedStyle(probe.children[0] as Element);
  const input = getComputedStyle(probe.children[1] as Element);
  const root = getComputedStyle(document.documentElement);
  const look = {
    label: { color: label.color, size: label.fontSize, weight: label.fontWeight },
    field: {
      color: input.color,
      ground: input.backgroundColor,
      line: `${input.borderTopWidth} ${input.borderTopStyle} ${input.borderTopColor}`,
      corner: input.borderTopLeftRadius,
    },
    focus: root.getPropertyValue('--accent').trim(),
    root: root.fontSize,
    family: input.fontFamily,
    faces: [...document.querySelectorAll<HTMLLinkElement>('link[rel="preload"][as="font"]')].slice(-1).map(({ href }) => href),
  };
  probe.remove();
  return look;
}
