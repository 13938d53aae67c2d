import { useCallback, useEffect, useRef, useState } from 'react';
import type { DefaultValues, FieldValues, UseFormReturn } from 'react-hook-form';

const PREFIX = 'ruta.draft.';

/** What was typed into a form of this window and never saved. */
export interface KeptDraft<Values, Beside = null> {
  values: Values;
  /** What belongs to it beside the fields. */
  beside: Beside;
  /** The state of the server that it was begun from, so that another window's change since is noticed. */
  begun: string;
}

/** What is kept of a form; null if nothing is. */
export function readDraft<Values, Beside = null>(key: string): KeptDraft<Values, Beside> | null {
  try {
    const stored = sessionStorage.getItem(PREFIX + key);
    return stored === null ? null : (JSON.parse(stored) as KeptDraft<Values, Beside>);
  } catch {
    return null;
  }
}

/** Forgets what is kept of a form, because it is saved or was left on purpose. */
export const forgetDraft = (key: string): void => sessionStorage.removeItem(PREFIX + key);

/**
 * Keeps what is typed into a form for as long as its window is open, through a reload and a server that is away; it is
 * there again when the form is.
 * @param revision the server's state as the form was opened
 * @param isDirty whether something of it is not saved
 * @param beside what belongs to it beside its fields
 * @returns the state that a change is begun from, whether something was brought back, and how to start from what is saved
 */
export function useKeptDraft<Values extends FieldValues, Beside = null>(
  key: string,
  form: UseFormReturn<Values>,
  revision: string,
  isDirty: boolean,
  beside?: Beside,
): { begun: string; setBegun: (revision: string) => void; isBack: boolean; startOver: () => void } {
  const [kept] = useState(() => readDraft<Values, Beside>(key));
  // What another window's change makes of it meanwhile must not count as what this one began from.
  const [opened] = useState(revision);
  const [begun, setBegun] = useState(kept?.begun ?? opened);
  const [isBack, setBack] = useState(kept !== null);
  const wasDirty = useRef(false);
  const extra = JSON.stringify(beside ?? null);
  const { watch, reset, getValues } = form;

  useEffect(() => {
    if (kept) reset(kept.values as DefaultValues<Values>, { keepDefaultValues: true });
  }, [kept, reset]);
  useEffect(() => {
    const keep = () => {
      try {
        sessionStorage.setItem(PREFIX + key, JSON.stringify({ values: getValues(), beside: JSON.parse(extra), begun }));
      } catch {
        // Larger than the browser keeps: then leaving asks, as always.
      }
    };
    if (!isDirty) {
      forgetDraft(key);
      // Saved since: what is typed from now on is new.
      if (wasDirty.current) setBack(false);
      return;
    }
    wasDirty.current = true;
    keep();
    const subscription = watch(keep);
    return () => subscription.unsubscribe();
  }, [key, begun, extra, isDirty, watch, getValues]);

  const startOver = useCallback(() => {
    setBack(false);
    setBegun(opened);
    reset();
    forgetDraft(key);
  }, [key, opened, reset]);
  return { begun, setBegun, isBack: isBack && isDirty, startOver };
}
