import type { IncomingMessage } from 'node:http';
import { personAt } from '../base/limits';
import { addressOf } from '../base/proxies';
import { baseOf } from '../domains/address';
import { visitorIdOf } from '../tracking/browserIds';
import type { Tracked } from '../tracking/recorder';
import { counts, visitorOf } from '../tracking/visitor';
import type { Guest } from './service';

/** Who asks, as far as their browser tells. */
export function guestOf(services: Tracked, request: IncomingMessage): Guest {
  const visitor = visitorOf(services, request);
  return {
    visitorId: visitorIdOf(request) ?? null,
    visitor,
    counted: counts(services, request) ? visitor : null,
    acceptLanguage: request.headers['accept-language'],
    person: personAt(addressOf(services.config.trusts, request)),
    base: baseOf(services, request),
  };
}
