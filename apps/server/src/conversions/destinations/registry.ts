import type { Destination } from '@ruta/core/conversions';
import type { DestinationAdapter } from './destination';
import { http } from './http';
import { skylark } from './skylark';

/** How each kind of destination is told; the compiler names one that is missing. */
export const DESTINATIONS: { [Kind in Destination['kind']]: DestinationAdapter<Extract<Destination, { kind: Kind }>> } = { skylark, http };

/** The adapter of a destination, whichever kind it is. */
export const adapterOf = (destination: Destination): DestinationAdapter<Destination> => DESTINATIONS[destination.kind] as never;
