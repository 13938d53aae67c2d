import { useState } from 'react';
import { type Problem, problemOf } from '../base/api';
import { type UploadProgress, upload } from '../base/upload';
import { shrinkPicture } from './shrinkPicture';

const asProblem = (thrown: unknown): Problem => (Array.isArray((thrown as Problem | undefined)?.errors) ? (thrown as Problem) : problemOf(thrown));

/** How far a file is, in words. */
export function progressWords({ stage, share }: UploadProgress, of: string): string {
  if (stage === 'preparing') return `Preparing${of}`;
  return `Uploading${of}, ${Math.round(share * 100)} %`;
}

/**
 * Sends files one after the other, large pictures made smaller before, and tells how far they are.
 * What went through is given back even if one of several was refused; why is in `problem`.
 */
export function useUpload<T>(kind: 'pictures' | 'downloads' | 'videos') {
  const [busy, setBusy] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function send(files: readonly File[]): Promise<T[]> {
    const sent: T[] = [];
    setProblem(null);
    try {
      for (const [index, file] of files.entries()) {
        const of = files.length > 1 ? ` ${index + 1} of ${files.length}` : '';
        setBusy(kind === 'pictures' ? `Reading${of}` : `Uploading${of}`);
        const ready = kind === 'pictures' ? await shrinkPicture(file) : file;
        sent.push(await upload<T>(kind, ready, (progress) => setBusy(progressWords(progress, of))));
      }
    } catch (thrown) {
      setProblem(asProblem(thrown));
    }
    setBusy(null);
    return sent;
  }
  return { busy, problem, problemWords: problem ? (problem.errors[0]?.message ?? problem.title) : null, send };
}
