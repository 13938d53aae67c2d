import type { PageContext } from '@ruta/pages';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';

/** A moment at which something ends (Unix time in milliseconds), with its words in the shop's time zone. */
export function endOf({ db, clock }: Pick<Services, 'db' | 'clock'>, at: number): NonNullable<PageContext['endsAt']> {
  const { timeZone } = loadShop(db).settings;
  return { at, now: clock.now(), words: new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeStyle: 'short', timeZone }).format(at) };
}
