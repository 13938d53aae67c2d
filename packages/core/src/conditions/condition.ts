import { z } from 'zod';

/** What is known of a buyer when a condition is asked. Missing facts are unknown and match nothing. */
export const FactsSchema = z.object({
  ownsProducts: z.array(z.string()).default([]),
  boughtProducts: z.array(z.string()).default([]).describe('Products on the present order'),
  tags: z.array(z.string()).default([]),
  orderTotal: z.number().optional().describe('Goods after discounts without tax and shipping, minor units'),
  country: z.string().optional(),
  device: z.enum(['phone', 'tablet', 'desktop']).optional(),
  campaign: z.string().optional(),
  returning: z.boolean().optional(),
});
export type Facts = z.infer<typeof FactsSchema>;

const TestSchema = z.discriminatedUnion('fact', [
  z.object({ fact: z.literal('ownsProduct'), productId: z.string(), name: z.string() }),
  z.object({ fact: z.literal('boughtProduct'), productId: z.string(), name: z.string() }),
  z.object({ fact: z.literal('hasTag'), tag: z.string().min(1) }),
  z.object({ fact: z.literal('orderTotal'), operator: z.enum(['at least', 'under']), amount: z.int().min(0) }),
  z.object({ fact: z.literal('country'), operator: z.enum(['one of', 'none of']), countries: z.array(z.string()).min(1) }),
  z.object({ fact: z.literal('device'), device: z.enum(['phone', 'tablet', 'desktop']) }),
  z.object({ fact: z.literal('campaign'), campaign: z.string().min(1) }),
  z.object({ fact: z.literal('returning'), returning: z.boolean() }),
]);
export type ConditionTest = z.infer<typeof TestSchema>;

export type Condition = ConditionTest | { all: Condition[] } | { any: Condition[] } | { not: Condition };

/** The one condition language: tests of facts, combined with all, any and not, nested as deep as needed. */
export const ConditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    TestSchema,
    z.object({ all: z.array(ConditionSchema).min(1) }),
    z.object({ any: z.array(ConditionSchema).min(1) }),
    z.object({ not: ConditionSchema }),
  ]),
);

/** Whether a condition holds for what is known of a buyer. */
export function evaluate(condition: Condition, facts: Facts): boolean {
  if ('all' in condition) return condition.all.every((part) => evaluate(part, facts));
  if ('any' in condition) return condition.any.some((part) => evaluate(part, facts));
  if ('not' in condition) return !evaluate(condition.not, facts);
  switch (condition.fact) {
    case 'ownsProduct':
      return facts.ownsProducts.includes(condition.productId);
    case 'boughtProduct':
      return facts.boughtProducts.includes(condition.productId);
    case 'hasTag':
      return facts.tags.includes(condition.tag);
    case 'orderTotal':
      if (facts.orderTotal === undefined) return false;
      return condition.operator === 'at least' ? facts.orderTotal >= condition.amount : facts.orderTotal < condition.amount;
    case 'country':
      if (facts.country === undefined) return false;
      return condition.countries.includes(facts.country) === (condition.operator === 'one of');
    case 'device':
      return facts.device === condition.device;
    case 'campaign':
      return facts.campaign === condition.campaign;
    case 'returning':
      return facts.returning === condition.returning;
  }
}

/**
 * A condition in plain words, for plates on the map and for lists.
 * @param money formats minor units in the shop's currency
 */
export function describe(condition: Condition, money: (amount: number) => string): string {
  const within = (part: Condition) => ('all' in part || 'any' in part ? `(${describe(part, money)})` : describe(part, money));
  if ('all' in condition) return condition.all.map(within).join(' and ');
  if ('any' in condition) return condition.any.map(within).join(' or ');
  if ('not' in condition) return `not ${within(condition.not)}`;
  switch (condition.fact) {
    case 'ownsProduct':
      return `owns “${condition.name}”`;
    case 'boughtProduct':
      return `bought “${condition.name}”`;
    case 'hasTag':
      return `has the tag “${condition.tag}”`;
    case 'orderTotal':
      return `order ${condition.operator} ${money(condition.amount)}`;
    case 'country':
      return condition.operator === 'one of' ? `lives in ${condition.countries.join(', ')}` : `lives outside ${condition.countries.join(', ')}`;
    case 'device':
      return `on a ${condition.device}`;
    case 'campaign':
      return `came from “${condition.campaign}”`;
    case 'returning':
      return condition.returning ? 'has been here before' : 'is here for the first time';
  }
}
