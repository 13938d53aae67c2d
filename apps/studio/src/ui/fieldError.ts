import type { ReactNode, FormEventHandler as WhenTyped } from 'react';
import { useEffect, useRef, useState } from 'react';
import { problemOf } from '../base/api';

/** What a server has refused, and by which answer: it speaks of what stood in the field then. */
export interface Refused {
  message: string;
  of: unknown;
}

/** What is wrong with a field: read anew at every letter, or refused by the server. */
export type FieldError = string | Refused | undefined;

/** The words of an error that stands beside several fields. */
export const errorWords = (error: FieldError): string | undefined => (typeof error === 'object' ? error.message : error);

/** What the server refused of one field. @param failure what a request failed with, or nothing */
export function refusedAt(failure: unknown, path: string): Refused | undefined {
  const message = failure ? problemOf(failure).errors.find((field) => field.path === path)?.message : undefined;
  return message === undefined ? undefined : { message, of: failure };
}

/** What a refusal says of the whole form, where it names no field. */
export function refusedWhole(failure: unknown): string | null {
  const problem = failure ? problemOf(failure) : null;
  return problem && problem.errors.length === 0 ? problem.title : null;
}

/** The error of a field as long as it stands: a refusal is gone once the field was changed. */
export function useStanding<Control extends Element>(given: FieldError, onInput: WhenTyped<Control> | undefined) {
  const [changed, setChanged] = useState<unknown>(undefined);
  const refused = typeof given === 'object' ? given : undefined;
  const error = refused ? (changed === refused.of ? undefined : refused.message) : (given as string | undefined);
  const noted: WhenTyped<Control> = (event) => {
    if (refused) setChanged(refused.of);
    onInput?.(event);
  };
  return { error, onInput: noted };
}

/** Whether something still stands that was said of a form: it does until anything in it is changed, or it is said again. */
export function useUntilTyped<Element extends HTMLElement>(said: ReactNode) {
  const ref = useRef<Element>(null);
  const [isStanding, setStanding] = useState(true);
  const form = useRef<HTMLFormElement | null>(null);
  const words = typeof said === 'string' ? said : Boolean(said);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever is said anew stands
  useEffect(() => setStanding(true), [words]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only while it is shown can the form around it be found
  useEffect(() => {
    form.current = ref.current?.closest('form') ?? form.current;
    const around = words ? form.current : null;
    const end = () => setStanding(false);
    const again = () => setStanding(true);
    around?.addEventListener('input', end);
    around?.addEventListener('submit', again);
    return () => {
      around?.removeEventListener('input', end);
      around?.removeEventListener('submit', again);
    };
  }, [words, isStanding]);
  return { isStanding, ref };
}
