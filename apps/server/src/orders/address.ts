import type { Services } from '../base/services';

/** A buyer's own page of an order: an address that cannot be guessed. */
export function orderAddress({ config }: Pick<Services, 'config'>, token: string): string {
  return `${config.siteUrl}/order/${token}`;
}
