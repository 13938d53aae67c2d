import type { IncomingMessage, ServerResponse } from 'node:http';
import { parseCookie, type SerializeOptions, stringifySetCookie } from 'cookie';

/** One cookie of a request. Requests without it, which are most, are answered without reading the others. */
export function cookieOf(request: IncomingMessage, name: string): string | undefined {
  const header = request.headers.cookie;
  return header?.includes(`${name}=`) ? parseCookie(header)[name] : undefined;
}

/** Sets a cookie beside those that are set already. */
export function giveCookie(response: ServerResponse, name: string, value: string, options: SerializeOptions): void {
  response.appendHeader('set-cookie', stringifySetCookie(name, value, options));
}
