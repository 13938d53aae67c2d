import { momentWords, zoneWords } from '@ruta/core/appointments';
import type { BookingRow } from './store';

/** When an appointment is, by the clock of whoever booked it: `Monday, 30 November at 09:30 (New York time)`. */
export const whenWords = ({ startAt, zone }: Pick<BookingRow, 'startAt' | 'zone'>, timeZone: string): string =>
  `${momentWords(startAt, zone ?? timeZone)} (${zoneWords(zone ?? timeZone)} time)`;
