import { ConversionRuleSchema, NewConversionRuleSchema, RuleChoicesSchema } from '@ruta/core/conversions';
import { z } from 'zod';
import type { Api } from '../base/api';
import type { LiveServices } from '../funnel/live';
import { addRule, changeRule, listRules, removeRule, ruleChoices } from './store';

/** What ad platforms and other programs are told of conversions. */
export function conversionRoutes(api: Api, services: LiveServices): void {
  api.on({ method: 'get', path: '/conversion-rules', summary: 'What platforms are told', response: z.array(ConversionRuleSchema) }, () => listRules(services));
  api.on({ method: 'get', path: '/conversion-rules/choices', summary: 'Live funnels and forms, to choose from', response: RuleChoicesSchema }, () =>
    ruleChoices(services),
  );
  api.on(
    {
      method: 'post',
      path: '/conversion-rules',
      summary: 'Tell a platform of one more moment',
      body: NewConversionRuleSchema,
      response: ConversionRuleSchema,
      role: 'owner',
    },
    ({ body }) => addRule(services, body),
  );
  api.on(
    {
      method: 'put',
      path: '/conversion-rules/:id',
      summary: 'Change what a platform is told, or switch it off',
      body: NewConversionRuleSchema,
      response: ConversionRuleSchema,
      role: 'owner',
    },
    ({ params, body }) => changeRule(services, params.id ?? '', body),
  );
  api.on(
    { method: 'delete', path: '/conversion-rules/:id', summary: 'Tell a platform nothing more', response: z.array(ConversionRuleSchema), role: 'owner' },
    ({ params }) => {
      removeRule(services, params.id ?? '');
      return listRules(services);
    },
  );
}
