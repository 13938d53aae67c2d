import { freeSlots, slotsByDay } from '@ruta/core/appointments';
import { allElements, type PageDocument } from '@ruta/core/page';
import type { AppointmentShown } from '@ruta/pages';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { takenBetween } from './store';

const DAY = 24 * 60 * 60 * 1000;

/**
 * The free times of every appointment on a page, as they are now.
 * @param butFor a booking whose own time counts as free, since it is to be moved
 */
export function appointmentsOn(
  { db, clock }: Pick<Services, 'db' | 'clock'>,
  page: PageDocument,
  actionUrl: string,
  butFor?: string,
): Record<string, AppointmentShown> {
  const elements = allElements(page).filter((element) => element.type === 'appointment');
  if (elements.length === 0) return {};
  const { timeZone, mode } = loadShop(db).settings;
  const now = clock.now();
  const furthest = Math.max(...elements.map(({ daysAhead }) => daysAhead));
  const taken = takenBetween(db, now, now + (furthest + 2) * DAY, mode, butFor);
  return Object.fromEntries(
    elements.map((element) => [
      element.id,
      { actionUrl, zone: timeZone, days: slotsByDay(freeSlots(element, { now, timeZone, taken }), timeZone), values: {}, errors: {}, booked: null },
    ]),
  );
}
