import { MatchesSchema, TriedConditionSchema } from '@ruta/core/conditions';
import type { Api } from '../base/api';
import type { Tracked } from '../tracking/recorder';
import { matchesOf } from './matches';

export function factRoutes(api: Api, services: Tracked): void {
  api.on(
    {
      method: 'post',
      path: '/conditions/matches',
      summary: 'For how many buyers of the last 90 days a condition would have held',
      body: TriedConditionSchema,
      response: MatchesSchema,
      role: 'viewer',
    },
    ({ body }) => matchesOf(services, body.condition),
  );
}
