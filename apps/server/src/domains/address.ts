import type { IncomingMessage } from 'node:http';
import type { Services } from '../base/services';
import { baseOfHost, hostOfFunnel, readyDomain } from './store';

type Needs = Pick<Services, 'db' | 'config'>;

const hostOf = (request: IncomingMessage): string => (request.headers.host ?? '').toLowerCase().replace(/:\d+$/, '').replace(/\.$/, '');

/** The domain of the seller's own by which something was asked for; undefined where it was by the shop's usual address. */
export function domainOf({ db, config }: Needs, request: IncomingMessage) {
  const host = hostOf(request);
  return host === '' || host === new URL(config.siteUrl).hostname ? undefined : readyDomain(db, host);
}

/** The address of the public site as it was asked for: whoever came by a domain of the seller's stays there. */
export function baseOf(services: Needs, request: IncomingMessage): string {
  const domain = domainOf(services, request);
  return domain ? baseOfHost(services.config, domain.host) : services.config.siteUrl;
}

/** The address at which a funnel is reached: by its own domain, if one leads here. */
export function baseOfFunnel({ db, config }: Needs, funnelId: string): string {
  const host = hostOfFunnel(db, funnelId);
  return host === undefined ? config.siteUrl : baseOfHost(config, host);
}

/** The whole address of a funnel's stop; its first one stands at the root of a domain that opens on it. */
export function addressOfStep(services: Needs, funnelId: string, path: string, isEntry: boolean): string {
  const base = baseOfFunnel(services, funnelId);
  return base !== services.config.siteUrl && isEntry ? `${base}/` : base + path;
}

/** Whether an address is the shop's own, by its usual name or by a domain that leads here. */
export function isOwnAddress({ db, config }: Needs, address: string): boolean {
  if (!/^https?:\/\//i.test(address) || !URL.canParse(address)) return false;
  const { host, hostname, protocol } = new URL(address);
  const site = new URL(config.siteUrl);
  if (host === site.host && protocol === site.protocol) return true;
  return new URL(baseOfHost(config, hostname)).host === host && readyDomain(db, hostname) !== undefined;
}
