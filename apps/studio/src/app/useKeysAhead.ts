import { type Dispatch, type SetStateAction, useEffect, useState } from 'react';

/**
 * What is typed into something, from the key on that opens it: what comes before its field is there, however long that
 * is being loaded and drawn, counts as typed into it.
 * @param field a selector of the field that takes the keys itself once it has the focus
 */
export function useKeysAhead(isOpen: boolean, field: string): [string, Dispatch<SetStateAction<string>>] {
  const [typed, setTyped] = useState('');
  useEffect(() => {
    if (!isOpen) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.metaKey || event.ctrlKey || event.altKey) return;
      if (event.target instanceof Element && event.target.matches(field)) return;
      if (event.key === 'Backspace') setTyped((before) => before.slice(0, -1));
      else if (event.key.length === 1) setTyped((before) => before + event.key);
      else return;
      event.preventDefault();
    };
    addEventListener('keydown', onKey, true);
    return () => {
      removeEventListener('keydown', onKey, true);
      setTyped('');
    };
  }, [isOpen, field]);
  return [typed, setTyped];
}
