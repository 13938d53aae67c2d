import { useCallback, useEffect, useRef, useState } from 'react';
import type { DefaultValues, FieldValues, UseFormReturn } from 'react-hook-form';

const PREFIX = 'ruta.draft.';

/** What was typed into a form of this window and never saved. */
export interface KeptDraft<Values, Beside = null> {
  values: Values;
  /** What belongs to it beside the fields. */
  beside: Beside;
  /** The state of the server that it was begun from, so that another window's change since is noticed. */
  begun: string | number | null;
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
 * @param kept what was read of it when the form was opened
 * @returns whether it was brought back, and how to start from what is saved
 */
export function useKeptDraft<Values extends FieldValues, Beside = null>(
  key: string,
  form: UseFormReturn<Values>,
  kept: KeptDraft<Values, Beside> | null,
  now: { begun: string | number | null; beside: Beside; isDirty: boolean },
): { isBack: boolean; startOver: () => void } {
  const [isBack, setBack] = useState(kept !== null);
  const wasDirty = useRef(false);
  const { begun, beside, isDirty } = now;
  const extra = JSON.stringify(beside);
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
    reset();
    forgetDraft(key);
  }, [key, reset]);
  return { isBack: isBack && isDirty, startOver };
}
