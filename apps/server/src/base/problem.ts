import type { ErrorRequestHandler, Response } from 'express';
import multer from 'multer';
import type { Logger } from 'pino';
import type { ZodError } from 'zod';

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
  LIMIT_FILE_SIZE: 'This file is too large.',
  LIMIT_UNEXPECTED_FILE: 'Send one file, in the field “file”.',
};

/** Turns whatever was thrown into a problem document; what nobody foresaw is logged and answered without detail. */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error, request, response, next) => {
    if (response.headersSent) return next(error);
    if (error instanceof Refusal) return sendProblem(response, error.status, error.title, error.fields);
    if (error instanceof multer.MulterError) {
      return sendProblem(response, 413, UPLOAD_MESSAGES[error.code] ?? error.message, [
        { path: 'file', message: UPLOAD_MESSAGES[error.code] ?? error.message },
      ]);
    }
    if (error?.type === 'entity.parse.failed') return sendProblem(response, 400, 'The body is not valid JSON.');
    if (error?.type === 'entity.too.large') return sendProblem(response, 413, 'The body is too large.');
    log.error({ err: error, path: request.path }, 'request failed');
    return sendProblem(response, 500, 'Something went wrong on our side. Look whether it was done, then try again.');
  };
}
