import type { Request } from 'express';
import { baseOf, isOwnAddress } from '../domains/address';
import type { Tracked } from '../tracking/recorder';
import { visitorIdOf } from '../tracking/visitor';

/** An address as its visitor is led there: to another domain of the shop with a word by which they are known on arrival. */
export function carriedOver(services: Tracked, request: Request, address: string): string {
  const visitorId = visitorIdOf(request);
  if (!visitorId || !isOwnAddress(services, address) || new URL(address).origin === new URL(baseOf(services, request)).origin) return address;
  const to = new URL(address);
  to.searchParams.set('ruta_from', services.recorder.handovers.giveVisitor(visitorId, services.clock.now()));
  return to.href;
}
