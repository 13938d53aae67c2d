import type { IncomingMessage } from 'node:http';
import { Refusal } from './problem';

/**
 * Reads a small JSON body of a request that is answered before the framework.
 * @throws Refusal in words if it is none, too large, or packed or written in a way that is not understood
 */
export function jsonBody(request: IncomingMessage, mostBytes: number): Promise<unknown> {
  const type = request.headers['content-type'] ?? '';
  if (!/^application\/json\b/i.test(type)) return refused(415, 'Send JSON.');
  if (/charset=(?!"?utf-?8\b)/i.test(type)) return refused(415, 'The body is in a set of letters that is not understood here. Send UTF-8.');
  if ((request.headers['content-encoding'] ?? 'identity') !== 'identity') return refused(415, 'The body is packed in a way that is not understood here.');
  if (Number(request.headers['content-length'] ?? 0) > mostBytes) return refused(413, tooLarge(mostBytes));
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    let bytes = 0;
    request.on('data', (chunk: Buffer) => {
      bytes += chunk.length;
      if (bytes <= mostBytes) chunks.push(chunk);
    });
    request.on('end', () => {
      if (bytes > mostBytes) return reject(new Refusal(413, tooLarge(mostBytes)));
      if (bytes === 0) return resolve({});
      try {
        resolve(JSON.parse(Buffer.concat(chunks).toString('utf8')));
      } catch {
        reject(new Refusal(400, 'The body is not valid JSON.'));
      }
    });
    // Nobody is there any more to be told.
    request.on('aborted', () => reject(new Refusal(400, 'The request ended before it was whole.')));
    request.on('error', reject);
  });
}

const tooLarge = (mostBytes: number) => `This is too large: at most ${Math.floor(mostBytes / 1024)} kB can be sent here.`;
const refused = (status: number, title: string) => Promise.reject(new Refusal(status, title));
