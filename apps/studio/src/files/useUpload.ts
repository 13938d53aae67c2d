import { useState } from 'react';
import { flushSync } from 'react-dom';
import { type Problem, problemOf } from '../base/api';
import { type UploadProgress, upload } from '../base/upload';
import { beginUpload } from '../base/uploadsUnderWay';
import { shrinkPicture } from './shrinkPicture';

const asProblem = (thrown: unknown): Problem => (Array.isArray((thrown as Problem | undefined)?.errors) ? (thrown as Problem) : problemOf(thrown));

/** How far a file is, in words. */
export function progressWords({ stage, share }: UploadProgress, of: string): string {
  if (stage === 'preparing') return `Preparing${of}`;
  return `Uploading${of}, ${Math.round(share * 100)} %`;
}

/**
 * Sends files one after the other, large pictures made smaller before, and tells how far they are.
 * @param take is given what went through, even if one of several was refused; why is in `problem`
 */
export function useUpload<T>(kind: 'pictures' | 'downloads' | 'videos', take: (sent: T[]) => void) {
  const [busy, setBusy] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function send(files: readonly File[]): Promise<void> {
    const sent: T[] = [];
    const end = beginUpload();
    let wentThrough = true;
    setProblem(null);
    try {
      for (const [index, file] of files.entries()) {
        const of = files.length > 1 ? ` ${index + 1} of ${files.length}` : '';
        setBusy(kind === 'pictures' ? `Reading${of}` : `Uploading${of}`);
        const ready = kind === 'pictures' ? await shrinkPicture(file) : file;
        sent.push(await upload<T>(kind, ready, (progress) => setBusy(progressWords(progress, of))));
      }
    } catch (thrown) {
      wentThrough = false;
      setProblem(asProblem(thrown));
    }
    // A form that waits for this upload is saved with it: it stands in its place before the upload is over.
    flushSync(() => {
      setBusy(null);
      if (sent.length > 0) take(sent);
    });
    end(wentThrough);
  }
  return { busy, problem, problemWords: problem ? (problem.errors[0]?.message ?? problem.title) : null, send };
}
