import type { Request } from 'express';
import { personAt } from '../base/limits';
import { baseOf } from '../domains/address';
import type { Tracked } from '../tracking/recorder';
import { countedVisitor, visitorIdOf, visitorOf } from '../tracking/visitor';
import type { Guest } from './service';

/** Who asks, as far as their browser tells. */
export function guestOf(services: Tracked, request: Request): Guest {
  return {
    visitorId: visitorIdOf(request) ?? null,
    visitor: visitorOf(services, request),
    counted: countedVisitor(services, request),
    acceptLanguage: request.get('accept-language'),
    person: personAt(request.ip),
    base: baseOf(services, request),
  };
}
