import { type RefObject, useEffect } from 'react';
import type { Selection } from './editorSlice';

const SHOWN = 'edit-shown';
/** So much of the room must be left beside a part for it to be centred in it. */
const TALL = 0.9;

/**
 * Brings what is selected elsewhere than on the canvas into view on each screen, and shows it for a moment: chosen in the
 * outline, just added, or led to. What was clicked on the canvas stays where it is.
 */
export function useBroughtIntoView(
  holder: RefObject<HTMLDivElement | null>,
  selection: Selection,
  now: { readonly current: { clicked: string | null } },
): void {
  const id = selection?.id ?? null;
  useEffect(() => {
    if (id === null || now.current.clicked === id) return;
    now.current.clicked = null;
    const parts = [...(holder.current?.querySelectorAll('iframe') ?? [])].flatMap((frame) => {
      const part = frame.contentDocument?.querySelector<HTMLElement>(`[data-element="${CSS.escape(id)}"], [data-section="${CSS.escape(id)}"]`);
      return part ? [{ part, frame }] : [];
    });
    for (const { part, frame } of parts) {
      const scale = frame.getBoundingClientRect().width / Math.max(1, frame.clientWidth);
      const room = frame.closest('section')?.clientHeight ?? innerHeight;
      part.closest('details')?.setAttribute('open', '');
      part.scrollIntoView({ block: part.getBoundingClientRect().height * scale > room * TALL ? 'start' : 'center' });
      part.classList.add(SHOWN);
      part.addEventListener('animationend', () => part.classList.remove(SHOWN), { once: true });
    }
  }, [id, holder, now]);
}
