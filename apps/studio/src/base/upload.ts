import { currentToken, type Problem, problemOf, renewToken } from './api';

/** How far a file is: what is being done to it, and how much of that is done, from 0 to 1. */
export interface UploadProgress {
  stage: 'sending' | 'preparing';
  share: number;
}

/**
 * Uploads a file and tells how far it is. Sending is counted by what has left the browser; what the server then makes of
 * the file, such as the sizes of a picture, is one stage of its own.
 * @throws Problem
 */
export async function upload<T>(kind: 'pictures' | 'downloads' | 'videos', file: File, tell: (progress: UploadProgress) => void = () => undefined): Promise<T> {
  const body = new FormData();
  body.append('file', file);
  let response = await send(`/api/uploads/${kind}`, body, tell);
  if (response?.status === 403 && (await renewToken())) response = await send(`/api/uploads/${kind}`, body, tell);
  if (!response) throw problemOf(undefined);
  const data = response.data as T & Partial<Problem>;
  if (response.status >= 400) throw { status: response.status, title: data.title ?? 'This file was refused.', errors: data.errors ?? [] } satisfies Problem;
  return data;
}

/** `fetch` cannot tell how much it has sent. @returns null if the server was not reached */
function send(url: string, body: FormData, tell: (progress: UploadProgress) => void): Promise<{ status: number; data: unknown } | null> {
  return new Promise((resolve) => {
    const request = new XMLHttpRequest();
    request.open('POST', url);
    request.responseType = 'json';
    request.setRequestHeader('x-csrf-token', currentToken() ?? '');
    request.upload.onprogress = ({ loaded, total }) => tell({ stage: 'sending', share: total > 0 ? loaded / total : 0 });
    request.upload.onload = () => tell({ stage: 'preparing', share: 0 });
    request.onload = () => resolve({ status: request.status, data: request.response ?? {} });
    request.onerror = () => resolve(null);
    request.onabort = () => resolve(null);
    request.send(body);
  });
}
