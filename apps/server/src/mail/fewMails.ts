import type { Limit } from '../base/limits';
import type { Services } from '../base/services';

/** So many mails a day that anybody can have sent by typing an address; what is paid for is always written. */
const PROMPTED: Limit = { name: 'mails', most: 6, windowMs: 24 * 60 * 60_000 };

/**
 * Whether one more mail may go to an address because somebody typed it: nobody's mailbox is filled by a stranger with the
 * shop's mail. To be asked once for each mail.
 */
export const mayWriteTo = ({ limits }: Pick<Services, 'limits'>, address: string): boolean => limits.take(PROMPTED, address.trim().toLowerCase());
