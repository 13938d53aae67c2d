import { type Condition, ConditionSchema } from '@ruta/core/conditions';
import type { FactTest } from '@ruta/core/facts';

/** A condition as it is being put together: questions in groups, of which all, any or none must hold. */
export interface Group {
  kind: 'group';
  id: string;
  of: 'all' | 'any' | 'none';
  parts: Draft[];
}
export type Draft = Group | { kind: 'test'; id: string; test: FactTest };

let made = 0;
/** Tells the parts of one editor apart. */
export const partId = (): string => `part-${++made}`;

export const emptyGroup = (): Group => ({ kind: 'group', id: partId(), of: 'all', parts: [] });

function draftOf(condition: Condition): Draft {
  if ('all' in condition) return { kind: 'group', id: partId(), of: 'all', parts: condition.all.map(draftOf) };
  if ('any' in condition) return { kind: 'group', id: partId(), of: 'any', parts: condition.any.map(draftOf) };
  if ('not' in condition) {
    const inner = condition.not;
    return { kind: 'group', id: partId(), of: 'none', parts: 'any' in inner ? inner.any.map(draftOf) : [draftOf(inner)] };
  }
  return { kind: 'test', id: partId(), test: condition };
}

/** A condition to be edited: always one group, so that more can be added beside a single question. */
export function groupOf(condition: Condition | null): Group {
  if (condition === null) return emptyGroup();
  const draft = draftOf(condition);
  return draft.kind === 'group' ? draft : { kind: 'group', id: partId(), of: 'all', parts: [draft] };
}

function conditionPart(draft: Draft): Condition | null {
  if (draft.kind === 'test') return draft.test;
  const parts = draft.parts.flatMap((part) => conditionPart(part) ?? []);
  const [only] = parts;
  if (!only) return null;
  if (draft.of === 'none') return { not: parts.length === 1 ? only : { any: parts } };
  if (parts.length === 1) return only;
  return draft.of === 'all' ? { all: parts } : { any: parts };
}

/** The condition that stands in an editor; null for everybody, undefined while something of it is still missing. */
export function conditionOf(group: Group): Condition | null | undefined {
  const condition = conditionPart(group);
  if (condition === null) return null;
  return isWhole(group) && ConditionSchema.safeParse(condition).success ? condition : undefined;
}

const isWhole = (draft: Draft): boolean => (draft.kind === 'test' ? isWholeTest(draft.test) : draft.parts.every(isWhole));

/** Whether what only the seller knows is still to be chosen. */
const lacksChoice = (test: FactTest): boolean =>
  ('countries' in test && test.countries.length === 0) ||
  ('what' in test && Object.values(test.what).includes('')) ||
  (test.fact === 'saw' && test.stepId === '');

/** Whether one question is whole. */
export const isWholeTest = (test: FactTest): boolean => ConditionSchema.safeParse(test).success && !lacksChoice(test);

/** A draft with one part of it changed, or taken out where `change` gives nothing. */
export function changePart(group: Group, id: string, change: (part: Draft) => Draft | null): Group {
  return {
    ...group,
    parts: group.parts.flatMap((part): Draft[] => {
      if (part.id === id) return [change(part) ?? []].flat();
      return [part.kind === 'group' ? changePart(part, id, change) : part];
    }),
  };
}
