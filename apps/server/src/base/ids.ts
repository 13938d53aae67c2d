import { randomBytes } from 'node:crypto';
import { type IdKind, makeId } from '@ruta/core/ids';
import type { Clock } from './clock';

/** Makes a new sortable id of a kind. */
export const newId = (clock: Clock, kind: IdKind): string => makeId(kind, clock.now(), randomBytes(10));

/** A secret that cannot be guessed, for addresses that stand for a right: 144 random bits. */
export const newToken = (): string => randomBytes(18).toString('base64url');
