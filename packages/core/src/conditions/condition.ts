import { z } from 'zod';
import { describeFact, type FactNames, type Facts, type FactTest, FactTestSchema, type Truth, testFact } from '../facts';

export type Condition = FactTest | { all: Condition[] } | { any: Condition[] } | { not: Condition };

/** The one condition language: tests of facts, combined with all, any and not, nested as deep as needed. */
export const ConditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    FactTestSchema,
    z.object({ all: z.array(ConditionSchema).min(1) }),
    z.object({ any: z.array(ConditionSchema).min(1) }),
    z.object({ not: ConditionSchema }),
  ]),
);

const LONGEST_TEXT = 20_000;

/** A condition as JSON, as it stands in an address. */
export const ConditionTextSchema = z
  .string()
  .max(LONGEST_TEXT)
  .optional()
  .transform((text, context) => {
    if (!text) return undefined;
    try {
      return ConditionSchema.parse(JSON.parse(text));
    } catch {
      context.addIssue({ code: 'custom', message: 'This filter cannot be read. Choose it anew.' });
      return z.NEVER;
    }
  })
  .describe('A condition as JSON');

/**
 * Whether a condition is true of what is known of a buyer, in Kleene's strong logic of three values: undefined is not
 * known. `not` of something unknown is unknown too; one no settles an `all`, one yes settles an `any`.
 */
export function truthOf(condition: Condition, facts: Facts): Truth {
  if ('all' in condition) return combined(condition.all, facts, false);
  if ('any' in condition) return combined(condition.any, facts, true);
  if ('not' in condition) {
    const truth = truthOf(condition.not, facts);
    return truth === undefined ? undefined : !truth;
  }
  return testFact(condition, facts);
}

/** The parts' truth where one that is `settles` decides; else unknown if one part is. */
function combined(parts: readonly Condition[], facts: Facts, settles: boolean): Truth {
  const truths = parts.map((part) => truthOf(part, facts));
  if (truths.includes(settles)) return settles;
  return truths.includes(undefined) ? undefined : !settles;
}

/** Whether a condition holds: only a known yes does. */
export function evaluate(condition: Condition, facts: Facts): boolean {
  return truthOf(condition, facts) === true;
}

/** A condition in plain words, for plates on the map and for lists. Names are read when it is described. */
export function describe(condition: Condition, names: FactNames): string {
  const within = (part: Condition) => ('all' in part || 'any' in part ? `(${describe(part, names)})` : describe(part, names));
  if ('all' in condition) return condition.all.map(within).join(' and ');
  if ('any' in condition) return condition.any.map(within).join(' or ');
  if ('not' in condition) return `not ${within(condition.not)}`;
  return describeFact(condition, names);
}
