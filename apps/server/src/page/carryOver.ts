import type { Request } from 'express';
import { baseOf, isOwnAddress } from '../domains/address';
import { isTeam, teamLink } from '../team/mark';
import { browserIdsOf } from '../tracking/browserIds';
import type { Tracked } from '../tracking/recorder';

/** An address as its visitor is led there: to another domain of the shop with a word by which they count as the same on arrival. */
export function carriedOver(services: Tracked, request: Request, address: string): string {
  const ids = browserIdsOf(request);
  if (!ids || !isOwnAddress(services, address) || new URL(address).origin === new URL(baseOf(services, request)).origin) return address;
  const to = new URL(address);
  to.searchParams.set('ruta_from', services.recorder.handovers.giveVisitor(ids.counted, address, services.clock.now()));
  // The shop's own people are its own people there, too.
  return isTeam(services, request) ? `${teamLink(services, to.origin)}&to=${encodeURIComponent(to.pathname + to.search)}` : to.href;
}
