import type { Condition } from '@ruta/core/conditions';
import { type ExperimentSettings, ExperimentSettingsSchema, type ExperimentView, type Goal } from '@ruta/core/experiments';

/** The settings of a test as they are typed. */
export interface SettingsDraft {
  name: string;
  question: string;
  goal: Goal;
  /** In percent. */
  change: string;
  audience: Condition | null;
  ends: 'decision' | 'date';
  lastDay: string;
  arms: Array<{ armId: string; name: string; share: string }>;
}

export function toDraft({ name, question, goal, change, audience, ends, lastDay, arms }: ExperimentView): SettingsDraft {
  return {
    name,
    question,
    goal,
    change: String(Math.round(change * 1000) / 10),
    audience,
    ends,
    lastDay: lastDay ?? '',
    arms: arms.map(({ id, name: arm, share }) => ({ armId: id, name: arm, share: String(share) })),
  };
}

/** A number as people write it: with a point or a comma; NaN for what is none. */
const numberOf = (typed: string): number => (typed.trim() === '' ? Number.NaN : Number(typed.trim().replace(',', '.')));

/** What was typed as settings, or what is wrong with it at each field of the form. */
export function readDraft(draft: SettingsDraft): { settings: ExperimentSettings } | { errors: Record<string, string> } {
  const read = ExperimentSettingsSchema.safeParse({
    ...draft,
    change: numberOf(draft.change) / 100,
    lastDay: draft.lastDay || null,
    arms: draft.arms.map(({ armId, name, share }) => ({ id: armId, name, share: numberOf(share) })),
  });
  if (read.success) return { settings: read.data };
  return {
    errors: Object.fromEntries(
      read.error.issues.map(({ path, message, code }) => [path.join('.') || 'name', code === 'invalid_type' ? 'Enter a number.' : message]),
    ),
  };
}

/** Shares that are even to the last percent: 50 and 50, or 34, 33 and 33. */
export const evenShares = (arms: number): number[] => Array.from({ length: arms }, (_, index) => Math.floor(100 / arms) + (index < 100 % arms ? 1 : 0));
