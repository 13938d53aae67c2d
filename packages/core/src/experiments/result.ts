import { z } from 'zod';
import { alwaysValid, alwaysValidInterval, type Estimate } from './alwaysValid';
import { type Arm, ArmSchema } from './arm';
import { bootstrapInterval, perVisitor, welch } from './means';
import { ALPHA } from './plan';
import { rateInterval, standings, twoProportions } from './rates';
import { sharesChance, UNEVEN } from './shares';

const IntervalSchema = z.tuple([z.number(), z.number()]);

/** What a test has seen so far. The first arm is the original. */
export const ExperimentResultInputSchema = z
  .object({
    goal: z.enum(['conversion', 'revenue']),
    arms: z.array(ArmSchema).min(2, 'A test has at least two arms.').max(10, 'A test has at most ten arms.'),
    difference: z.number().gt(0, 'The planned difference must be above 0.').describe('Planned, absolute: a rate, or minor units per visitor'),
    isOver: z.boolean().default(false).describe('Whether its planned end is reached'),
    before: z.array(z.number().min(0).max(1)).optional().describe('The always-valid p-value of each arm at earlier looks'),
    seed: z.int().min(1).max(2_147_483_647).default(1).describe('For the bootstrap: the same gives the same'),
  })
  .superRefine(({ arms, goal, before }, context) => {
    if (new Set(arms.map(({ name }) => name)).size < arms.length)
      context.addIssue({ code: 'custom', path: ['arms'], message: 'Each arm needs a name of its own.' });
    if (goal === 'revenue' && arms.some(({ revenues }) => revenues === undefined))
      context.addIssue({ code: 'custom', path: ['arms'], message: 'Say what the visitors of each arm brought.' });
    if (before && before.length !== arms.length) context.addIssue({ code: 'custom', path: ['before'], message: 'Give one for each arm.' });
  });
export type ExperimentResultInput = z.infer<typeof ExperimentResultInputSchema>;

export const ArmResultSchema = z.object({
  name: z.string(),
  visitors: z.int(),
  converted: z.int(),
  rate: z.number(),
  interval: IntervalSchema.describe('95 %, of the rate'),
  chanceBest: z.number().describe('Of having the highest rate of all arms'),
  expectedLoss: z.number().describe('What of the rate is lost on average by choosing it, absolute, against the best of all'),
  revenue: z.object({ perVisitor: z.number(), deviation: z.number(), interval: IntervalSchema.describe('95 %, percentile bootstrap') }).nullable(),
  against: z
    .object({
      difference: z.number().describe('Of the goal against the first arm, absolute'),
      relative: z.number().nullable(),
      interval: IntervalSchema.nullable().describe('95 % at every look at once, of the difference'),
      alwaysValid: z.number().describe('The p-value that decides, however often it is looked at'),
      plain: z.number().describe('For reference: right for a single look at the planned end only'),
    })
    .nullable()
    .describe('Null for the first arm'),
});
export type ArmResult = z.infer<typeof ArmResultSchema>;

export const ExperimentResultSchema = z.object({
  goal: z.enum(['conversion', 'revenue']),
  arms: z.array(ArmResultSchema),
  sharesChance: z.number().describe('How likely it is by chance that visitors fell so unevenly on the arms'),
  isUneven: z.boolean(),
  /** Decided is only what an always-valid p-value decides; without it the original stays. */
  decision: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('go-on') }),
    z.object({ kind: z.literal('winner'), arm: z.string() }),
    z.object({ kind: z.literal('original-is-better') }),
    z.object({ kind: z.literal('undecided') }),
    z.object({ kind: z.literal('not-to-be-trusted') }),
  ]),
});
export type ExperimentResult = z.infer<typeof ExperimentResultSchema>;

/** What the goal of an arm is estimated at. */
function estimateOf(arm: Arm, goal: ExperimentResultInput['goal']): { mean: number; variance: number } {
  if (goal === 'revenue') {
    const { mean, variance } = perVisitor({ revenues: arm.revenues ?? [], visitors: arm.visitors });
    return { mean, variance: arm.visitors > 1 ? variance / arm.visitors : 0 };
  }
  const rate = arm.visitors === 0 ? 0 : arm.converted / arm.visitors;
  return { mean: rate, variance: arm.visitors === 0 ? 0 : (rate * (1 - rate)) / arm.visitors };
}

/** Of fewer visitors in an arm, or fewer who reached the goal in either, the normal approximation says nothing. */
const FEWEST_VISITORS = 50;
const FEWEST_CONVERTED = 10;
const isEnough = ({ visitors, converted, revenues }: Arm, goal: ExperimentResultInput['goal']) =>
  visitors >= FEWEST_VISITORS && (goal === 'revenue' ? (revenues?.length ?? 0) : converted) >= FEWEST_CONVERTED;

const revenuesOf = ({ revenues, visitors }: Arm) => ({ revenues: revenues ?? [], visitors });

/** Each arm against the first, by what holds at every look, shared out among the arms that are compared with it (Bonferroni). */
function compared({ goal, arms, difference: tau, before }: ExperimentResultInput): Array<ArmResult['against']> {
  const [first] = arms as [Arm, ...Arm[]];
  const others = arms.length - 1;
  const original = estimateOf(first, goal);
  return arms.map((arm, index) => {
    if (index === 0) return null;
    const own = estimateOf(arm, goal);
    const seen: Estimate = { difference: own.mean - original.mean, variance: own.variance + original.variance };
    const earlier = before?.[index] ?? 1;
    const valid = isEnough(arm, goal) && isEnough(first, goal) ? alwaysValid(seen, tau, Math.min(1, earlier / others)) : earlier / others;
    return {
      difference: seen.difference,
      relative: original.mean === 0 ? null : seen.difference / original.mean,
      interval: alwaysValidInterval(seen, tau, ALPHA / others),
      alwaysValid: Math.min(1, valid * others),
      plain: goal === 'revenue' ? welch(revenuesOf(arm), revenuesOf(first)) : twoProportions(arm, first),
    };
  });
}

/** Only what decides a test: the always-valid p-value of each arm (1 for the first), and what follows from them. */
export function decideExperiment(input: ExperimentResultInput): { valid: number[]; decision: ExperimentResult['decision'] } {
  const against = compared(input);
  const arms = input.arms.map(({ name }, index) => ({ name, against: against[index] ?? null }));
  return { valid: against.map((each) => each?.alwaysValid ?? 1), decision: decide(arms, sharesChance(input.arms) < UNEVEN, input.isOver) };
}

/**
 * Reads a test: rates, revenue per visitor and what may be concluded. Reading early fools nobody: what decides holds at
 * every look.
 */
export function experimentResult(input: ExperimentResultInput): ExperimentResult {
  const { goal, arms, isOver, seed } = input;
  const standing = standings(arms);
  const against = compared(input);
  const results = arms.map((arm, index): ArmResult => {
    const all = revenuesOf(arm);
    const { mean, variance } = perVisitor(all);
    return {
      name: arm.name,
      visitors: arm.visitors,
      converted: arm.converted,
      rate: arm.visitors === 0 ? 0 : arm.converted / arm.visitors,
      interval: rateInterval(arm),
      chanceBest: standing[index]?.best ?? 0,
      expectedLoss: standing[index]?.loss ?? 0,
      revenue: arm.revenues ? { perVisitor: mean, deviation: Math.sqrt(variance), interval: bootstrapInterval(all, seed + index) } : null,
      against: against[index] ?? null,
    };
  });
  const chance = sharesChance(arms);
  const isUneven = chance < UNEVEN;
  return { goal, arms: results, sharesChance: chance, isUneven, decision: decide(results, isUneven, isOver) };
}

/** The winner takes the place only if it has earned it: better than the first by what holds at every look, and the best of those. */
function decide(arms: ReadonlyArray<Pick<ArmResult, 'name' | 'against'>>, isUneven: boolean, isOver: boolean): ExperimentResult['decision'] {
  if (isUneven) return { kind: 'not-to-be-trusted' };
  const decided = arms.flatMap((arm) => (arm.against && arm.against.alwaysValid < ALPHA ? [{ name: arm.name, difference: arm.against.difference }] : []));
  const better = decided.filter(({ difference }) => difference > 0).sort((a, b) => b.difference - a.difference);
  if (better[0]) return { kind: 'winner', arm: better[0].name };
  if (decided.length === arms.length - 1) return { kind: 'original-is-better' };
  return { kind: isOver ? 'undecided' : 'go-on' };
}
