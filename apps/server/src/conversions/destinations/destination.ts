import type { Destination } from '@ruta/core/conversions';
import type { Config } from '../../base/config';
import type { Answer } from '../../base/outbound';
import type { Told } from '../told';

/** How one kind of destination is told. A further kind is one more file with one of these, and its place in `registry.ts`. */
export interface DestinationAdapter<Of extends Destination> {
  /** Where it listens. */
  url: (destination: Of, config: Config) => string | null;
  headers: (token: string | null) => Record<string, string>;
  body: (told: Told, destination: Of) => object;
  /** Whether an answer says that it was taken. */
  isTaken: (answer: Answer) => boolean;
}

/** The token as most programs want it. */
export function bearer(token: string | null): Record<string, string> {
  return token ? { authorization: `Bearer ${token}` } : {};
}
