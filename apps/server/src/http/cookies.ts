import { parse } from 'cookie';
import type { Request } from 'express';

/** The cookies of a request by name. */
export function parseCookie(request: Request): Record<string, string | undefined> {
  return parse(request.headers.cookie ?? '');
}
