import { useEffect, useRef, useState, useSyncExternalStore } from 'react';

/** Uploads of this window that are not in yet. */
let underWay = 0;
/** How many of them failed since the window was opened. */
let failed = 0;
const listeners = new Set<() => void>();
const tell = () => {
  for (const listener of listeners) listener();
};
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** Says that an upload has begun. @returns ends it: to be called once what it gave stands where it belongs, or that it failed */
export function beginUpload(): (wentThrough: boolean) => void {
  underWay += 1;
  tell();
  return (wentThrough) => {
    underWay -= 1;
    if (!wentThrough) failed += 1;
    tell();
  };
}

/** Whether something is being uploaded in this window. */
export const useUploading = (): boolean => useSyncExternalStore(subscribe, () => underWay > 0);

/** How saving a form stands to what is being uploaded for it. */
export interface AfterUploads {
  /** Saves at once, or as soon as the last upload is in. */
  onSubmit: (event: { preventDefault: () => void }) => void;
  isWaiting: boolean;
  /** Why nothing was saved, in words; null if nothing stands in the way. */
  problem: string | null;
}

/** Saves only once everything that was chosen is in, so that a form is never stored without its picture. */
export function useAfterUploads(submit: () => unknown): AfterUploads {
  const isUploading = useUploading();
  const [failedBefore, setFailedBefore] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const latest = useRef(submit);
  latest.current = submit;
  useEffect(() => {
    if (failedBefore === null || isUploading) return;
    setFailedBefore(null);
    if (failed > failedBefore) setProblem('A file could not be uploaded, so nothing was saved. Save again to save without it.');
    else void latest.current();
  }, [failedBefore, isUploading]);
  return {
    isWaiting: failedBefore !== null,
    problem,
    onSubmit(event) {
      event.preventDefault();
      setProblem(null);
      setFailedBefore(failed);
    },
  };
}
