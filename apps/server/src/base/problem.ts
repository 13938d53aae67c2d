import type { ErrorRequestHandler, Response } from 'express';
import multer from 'multer';
import type { Logger } from 'pino';
import type { ZodError } from 'zod';
import { type Writes, whyUnwritten } from './writes';

interface Needs {
  log: Logger;
  writes: Writes;
}

export interface FieldProblem {
  /** Where in the request, for example `price.regular` or `sections.0.columns.1.elements.2.words`. */
  path: string;
  message: string;
}

/** A refusal that the caller can understand and mend; becomes an RFC 9457 problem document. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly fields: FieldProblem[] = [],
  ) {
    super(title);
  }
}

export const notFound = (what: string) => new Refusal(404, `${what} was not found.`);

/** A refusal of one field, said at its place. */
export const fieldRefusal = (path: string, message: string, status = 400) => new Refusal(status, message, [{ path, message }]);

/** Where and why a schema does not fit, with union noise reduced to the deepest fitting branch. */
export function fieldProblems(error: ZodError): FieldProblem[] {
  return error.issues.map((issue) => ({ path: issue.path.join('.'), message: issue.message }));
}

export function sendProblem(response: Response, status: number, title: string, fields: FieldProblem[] = []): void {
  response
    .status(status)
    .type('application/problem+json')
    .send(JSON.stringify({ type: 'about:blank', title, status, ...(fields.length > 0 ? { errors: fields } : {}) }));
}

const UPLOAD_MESSAGES: Partial<Record<string, string>> = {
  LIMIT_UNEXPECTED_FILE: 'Send one file, in the field “file”.',
};

/** What is said of a request that could not even be read, by what its reader calls it. */
const UNREADABLE: Partial<Record<string, string>> = {
  'entity.parse.failed': 'The body is not valid JSON.',
  'entity.too.large': 'The body is too large.',
  'parameters.too.many': 'This form has too many fields.',
  'charset.unsupported': 'The body is in a set of letters that is not understood here. Send UTF-8.',
  'encoding.unsupported': 'The body is packed in a way that is not understood here.',
  'request.aborted': 'The request ended before it was whole.',
};

/** What was thrown as an answer to whoever asked, if it is their mistake; undefined for what nobody foresaw. */
function mistakeOf(error: unknown): Refusal | undefined {
  if (error instanceof Refusal) return error;
  if (error instanceof multer.MulterError) {
    const message = UPLOAD_MESSAGES[error.code] ?? 'This file could not be read. Send it by itself, in the field “file”.';
    return new Refusal(413, message, [{ path: 'file', message }]);
  }
  const { status, type, limit } = (error ?? {}) as { status?: unknown; type?: string; limit?: number };
  if (type === 'entity.too.large' && limit) return new Refusal(413, `This is too large: at most ${Math.floor(limit / 1024)} kB can be sent here.`);
  if (error instanceof URIError) return new Refusal(400, 'This address cannot be read.');
  if (typeof status === 'number' && status >= 400 && status < 500) return new Refusal(status, UNREADABLE[type ?? ''] ?? 'This request cannot be read.');
  return undefined;
}

/** What is answered to whatever was thrown; what nobody foresaw is written into the log. */
export function problemOf({ log, writes }: Needs, unwritten: (why: string) => string, error: unknown, path: string): Refusal {
  const mistake = mistakeOf(error);
  if (mistake) return mistake;
  log.error({ err: error, path }, 'request failed');
  writes.note(error);
  const why = whyUnwritten(error);
  return why ? new Refusal(503, unwritten(why)) : new Refusal(500, 'Something went wrong on our side. Look whether it was done, then try again.');
}

/**
 * Turns whatever was thrown into an answer; what nobody foresaw is logged and answered without detail. Programs get a problem
 * document.
 * @param unwritten what is said where something could not be written down
 * @param asPage makes the page that people get; without it they get the same as programs
 */
export function problemHandler({ log, writes }: Needs, unwritten: (why: string) => string, asPage?: (title: string) => string): ErrorRequestHandler {
  return (error, request, response, next) => {
    // What went wrong after the answer cannot be told any more, and must not cut it short.
    if (response.writableEnded) {
      log.error({ err: error, path: request.path }, 'something went wrong after a request was answered');
      writes.note(error);
      return;
    }
    if (response.headersSent) return next(error);
    const { status, title, fields } = problemOf({ log, writes }, unwritten, error, request.path);
    if (asPage && request.accepts(['json', 'html']) === 'html') {
      try {
        response.status(status).set('cache-control', 'no-store').type('html').send(asPage(title));
        return;
      } catch (failure) {
        // Whatever keeps the page from being made: words are sent all the same.
        log.error({ err: failure }, 'no page could be made of a problem');
      }
    }
    sendProblem(response, status, title, fields);
  };
}
