import { promisify } from 'node:util';
import { constants, gzip } from 'node:zlib';
import type { Request, Response } from 'express';

const pack = promisify(gzip);
/** Shorter ones gain nothing. */
const SHORTEST = 1400;

/** Answers with a page that is made for one visitor, packed in a thread of its own where their browser can read that. */
export async function sendHtml(request: Request, response: Response, html: string): Promise<void> {
  response.type('html').vary('accept-encoding');
  if (html.length < SHORTEST || request.acceptsEncodings('gzip', 'identity') !== 'gzip') {
    response.send(html);
    return;
  }
  const packed = await pack(html, { level: constants.Z_BEST_SPEED });
  if (!response.headersSent) response.set('content-encoding', 'gzip').send(packed);
}
