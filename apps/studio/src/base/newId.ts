import { type IdKind, makeId } from '@ruta/core/ids';
/** Makes a new id in the browser, of the same shape as the server's. */
export const newId = (kind: IdKind): string => makeId(kind, Date.now(), crypto.getRandomValues(new Uint8Array(10)));
