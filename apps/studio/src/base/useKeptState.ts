import { useEffect, useRef, useState } from 'react';

const PREFIX = 'ruta.kept.';

/** What was typed or chosen before anything is saved: it stays for as long as its window is open, through a reload. */
export function useKeptState<Value>(key: string, initial: Value): [Value, (value: Value) => void] {
  const [value, setValue] = useState<Value>(() => {
    try {
      const stored = sessionStorage.getItem(PREFIX + key);
      return stored === null ? initial : (JSON.parse(stored) as Value);
    } catch {
      return initial;
    }
  });
  // Only a change is kept: what was forgotten since must not come back by being drawn anew.
  const begun = useRef(initial);
  useEffect(() => {
    try {
      if (JSON.stringify(value) === JSON.stringify(begun.current)) sessionStorage.removeItem(PREFIX + key);
      else sessionStorage.setItem(PREFIX + key, JSON.stringify(value));
    } catch {
      // Larger than the browser keeps, or it keeps nothing: then it is as long as the page.
    }
  }, [key, value]);
  return [value, setValue];
}

/** Forgets everything that is kept under keys with a beginning, because it is saved. */
export function forgetKept(beginning: string): void {
  for (const key of Object.keys(sessionStorage)) if (key.startsWith(PREFIX + beginning)) sessionStorage.removeItem(key);
}
