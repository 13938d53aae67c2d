import type { Services } from '../base/services';

/** How long a link to a file holds: long in a mail, short on a page that makes fresh ones at every view. */
const LINK_MS = { mail: 30 * 24 * 60 * 60 * 1000, page: 24 * 60 * 60 * 1000 };

type Needs = Pick<Services, 'config' | 'secrets' | 'clock'>;

/** A signed address of a file that a buyer may fetch until it expires. */
export function downloadLink(services: Needs, grantId: string, use: 'mail' | 'page'): string {
  const until = services.clock.now() + LINK_MS[use];
  return `${services.config.siteUrl}/d/${grantId}?until=${until}&signature=${services.secrets.sign(`download ${grantId} ${until}`)}`;
}

export type LinkState = 'good' | 'expired' | 'false';

/** Whether a download address was made here and still holds. */
export function checkDownloadLink(services: Needs, grantId: string, until: string, signature: string): LinkState {
  if (!services.secrets.verify(`download ${grantId} ${until}`, signature)) return 'false';
  return Number(until) > services.clock.now() ? 'good' : 'expired';
}
