import { useCallback, useEffect, useRef } from 'react';

/**
 * Keeps what is typed while something that is typed into is still being loaded.
 * @returns takes what was typed, and ends the keeping
 */
export function useKeysAhead(isOpen: boolean): () => string {
  const typed = useRef('');
  const isTaken = useRef(false);
  useEffect(() => {
    if (!isOpen) return;
    const onKey = (event: KeyboardEvent) => {
      // Once it is there it has the keys itself; it may have been there from the beginning.
      if (isTaken.current || event.metaKey || event.ctrlKey || event.altKey) return;
      if (event.key === 'Backspace') typed.current = typed.current.slice(0, -1);
      else if (event.key.length === 1) typed.current += event.key;
      else return;
      event.preventDefault();
    };
    addEventListener('keydown', onKey, true);
    return () => {
      removeEventListener('keydown', onKey, true);
      typed.current = '';
      isTaken.current = false;
    };
  }, [isOpen]);
  return useCallback(() => {
    isTaken.current = true;
    return typed.current;
  }, []);
}
