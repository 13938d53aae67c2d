import type { Response } from 'express';

const TYPES = { csv: 'text/csv; charset=utf-8', json: 'application/json; charset=utf-8' };

/** Answers with a text file to keep. CSV begins with the mark by which spreadsheets know UTF-8. */
export function sendFile(response: Response, name: string, text: string): void {
  const kind = name.endsWith('.csv') ? 'csv' : 'json';
  response
    .set({ 'content-type': TYPES[kind], 'content-disposition': `attachment; filename="${name}"`, 'cache-control': 'no-store' })
    .send(kind === 'csv' ? `\uFEFF${text}` : text);
}
