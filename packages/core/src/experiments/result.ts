import { z } from 'zod';
import { alwaysValid, alwaysValidInterval, type Estimate } from './alwaysValid';
import { type Arm, ArmSchema, countOf } from './arm';
import { ALPHA } from './levels';
import { bootstrapInterval, perVisitor, welch } from './means';
import { rateInterval, standings, twoProportions } from './rates';
import { sharesChance, UNEVEN } from './shares';

/** The always-valid p-values that an arm has been kept at: that of its being better than the first, and that of its being worse. */
export const KeptSchema = z.object({ better: z.number().min(0).max(1), worse: z.number().min(0).max(1) });
export type Kept = z.infer<typeof KeptSchema>;
const NOTHING_KEPT: Kept = { better: 1, worse: 1 };

const IntervalSchema = z.tuple([z.number(), z.number()]);

/** What a test has seen so far. The first arm is the original. */
export const ExperimentResultInputSchema = z
  .object({
    goal: z.enum(['conversion', 'revenue']),
    arms: z.array(ArmSchema).min(2, 'A test has at least two arms.').max(10, 'A test has at most ten arms.'),
    difference: z.number().gt(0, 'The planned difference must be above 0.').describe('Planned, absolute: a rate, or minor units per visitor'),
    isOver: z.boolean().default(false).describe('Whether its planned end is reached'),
    before: z.array(KeptSchema).optional().describe('The always-valid p-values of each arm at earlier looks'),
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
      alwaysValid: z.number().describe('The p-value that decides, however often it is looked at: the smaller of the two kept ones'),
      kept: KeptSchema.describe('The same for each direction'),
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

const revenuesOf = ({ revenues, others, visitors }: Arm) => ({ revenues: revenues ?? [], others, visitors });

/** What the goal of an arm is estimated at. */
function estimateOf(arm: Arm, goal: ExperimentResultInput['goal']): { mean: number; variance: number } {
  if (goal === 'revenue') {
    const { mean, variance } = perVisitor(revenuesOf(arm));
    return { mean, variance: arm.visitors > 1 ? variance / arm.visitors : 0 };
  }
  const rate = arm.visitors === 0 ? 0 : arm.converted / arm.visitors;
  return { mean: rate, variance: arm.visitors === 0 ? 0 : (rate * (1 - rate)) / arm.visitors };
}

/** Of fewer visitors in an arm, or fewer who reached the goal in either, the normal approximation says nothing. */
const FEWEST_VISITORS = 50;
const FEWEST_CONVERTED = 10;
const isEnough = (arm: Arm, goal: ExperimentResultInput['goal']) =>
  arm.visitors >= FEWEST_VISITORS && (goal === 'revenue' ? countOf(arm) : arm.converted) >= FEWEST_CONVERTED;

/** Each arm against the first, by what holds at every look, shared out among the arms that are compared with it (Bonferroni). */
function compared({ goal, arms, difference: tau, before }: ExperimentResultInput): Array<ArmResult['against']> {
  const [first] = arms as [Arm, ...Arm[]];
  const others = arms.length - 1;
  const original = estimateOf(first, goal);
  return arms.map((arm, index) => {
    if (index === 0) return null;
    const own = estimateOf(arm, goal);
    const seen: Estimate = { difference: own.mean - original.mean, variance: own.variance + original.variance };
    const earlier = before?.[index] ?? NOTHING_KEPT;
    const now = isEnough(arm, goal) && isEnough(first, goal) ? Math.min(1, alwaysValid(seen, tau) * others) : 1;
    // What was proved of one direction says nothing of the other: each keeps its own.
    const kept: Kept = {
      better: seen.difference > 0 ? Math.min(earlier.better, now) : earlier.better,
      worse: seen.difference < 0 ? Math.min(earlier.worse, now) : earlier.worse,
    };
    return {
      difference: seen.difference,
      relative: original.mean === 0 ? null : seen.difference / original.mean,
      interval: alwaysValidInterval(seen, tau, ALPHA / others),
      alwaysValid: Math.min(kept.better, kept.worse),
      kept,
      plain: goal === 'revenue' ? welch(revenuesOf(arm), revenuesOf(first)) : twoProportions(arm, first),
    };
  });
}

/** Only what decides a test: the always-valid p-values of each arm, and what follows from them. */
export function decideExperiment(input: ExperimentResultInput): { kept: Kept[]; decision: ExperimentResult['decision'] } {
  const against = compared(input);
  const arms = input.arms.map(({ name }, index) => ({ name, against: against[index] ?? null }));
  return { kept: against.map((each) => each?.kept ?? NOTHING_KEPT), decision: decide(arms, sharesChance(input.arms) < UNEVEN, input.isOver) };
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
  const better = arms
    .flatMap(({ name, against }) => (against && against.kept.better < ALPHA && against.difference > 0 ? [{ name, difference: against.difference }] : []))
    .sort((a, b) => b.difference - a.difference);
  if (better[0]) return { kind: 'winner', arm: better[0].name };
  const worse = arms.filter(({ against }) => against && against.kept.worse < ALPHA);
  if (worse.length === arms.length - 1) return { kind: 'original-is-better' };
  return { kind: isOver ? 'undecided' : 'go-on' };
}
