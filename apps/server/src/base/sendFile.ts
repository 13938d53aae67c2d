import type { Response } from 'express';

const TYPES = { csv: 'text/csv; charset=utf-8', json: 'application/json; charset=utf-8' };

/** Answers with a text file to keep. CSV begins with the mark by which spreadsheets know UTF-8. */
export function sendFile(response: Response, name: string, text: string): void {
  const kind = name.endsWith('.csv') ? 'csv' : 'json';
  response
    .set({ 'content-type': TYPES[kind], 'content-disposition': `attachment; filename="${name}"`, 'cache-control': 'no-store' })
    .send(kind === 'csv' ? `\uFEFF${text}` : text);
}

/**
 * Answers with a file of any length, part by part, so that neither memory nor anybody else waits for the whole of it. What
 * goes wrong after the beginning breaks the file off, so that nobody takes it for whole.
 * @param part makes the lines after a key, from the beginning without one
 */
export async function sendInParts(
  response: Response,
  name: string,
  part: (after: string | undefined) => Promise<{ csv: string; next: string | null }>,
): Promise<void> {
  let { csv, next } = await part(undefined);
  response.set({ 'content-type': TYPES.csv, 'content-disposition': `attachment; filename="${name}"`, 'cache-control': 'no-store' });
  response.write(`\uFEFF${csv}`);
  try {
    while (next !== null && !response.destroyed) {
      ({ csv, next } = await part(next));
      if (!response.write(csv)) await new Promise((resolve) => response.once('drain', resolve).once('close', resolve));
    }
    response.end();
  } catch (error) {
    response.destroy(error as Error);
  }
}
