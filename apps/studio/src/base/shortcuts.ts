import { useSyncExternalStore } from 'react';

const KEY = 'ruta.shortcuts';
const listeners = new Set<() => void>();

/** Whether keys of one letter do something in this browser; whoever speaks to their computer switches them off. */
export const singleKeysWork = (): boolean => localStorage.getItem(KEY) !== 'off';

export function letSingleKeysWork(on: boolean): void {
  if (on) localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, 'off');
  for (const listener of listeners) listener();
}

export const useSingleKeys = (): boolean =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, singleKeysWork);

/** Whether something can be typed where a key was pressed, so that it is a letter and no shortcut. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.composedPath()[0];
  return target instanceof Element && target.closest('input, textarea, select, [contenteditable=true]') !== null;
}
