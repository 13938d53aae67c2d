import type { Condition } from '@ruta/core/conditions';
import { FACTS } from '@ruta/core/facts';
import { describe, expect, it } from 'vitest';
import { changePart, conditionOf, type Group, groupOf, isWholeTest, partId } from '../src/conditions/draft';
import { newTest } from '../src/conditions/newTest';

const abroad: Condition = { fact: 'country', operator: 'none of', countries: ['PT'] };
const rich: Condition = { fact: 'orderTotal', operator: 'at least', amount: 20_000 };
const phone: Condition = { fact: 'device', device: 'phone' };

describe('a condition in its editor', () => {
  it.each<[string, Condition]>([
    ['a single question', abroad],
    ['all of several', { all: [abroad, rich] }],
    ['any of a group within', { all: [abroad, { any: [rich, phone] }] }],
    ['none of several', { not: { any: [abroad, rich] } }],
    ['not one', { not: abroad }],
    ['a not within a group', { any: [{ not: rich }, { all: [abroad, phone] }] }],
  ])('%s comes out as it went in', (_what, condition) => {
    expect(conditionOf(groupOf(condition))).toEqual(condition);
  });

  it('is for everybody while it is empty, and decides nothing while a question is not whole', () => {
    expect(conditionOf(groupOf(null))).toBeNull();
    const tag = { kind: 'test' as const, id: partId(), test: newTest('tag') };
    const group: Group = { ...groupOf(null), parts: [tag] };
    expect(isWholeTest(tag.test)).toBe(false);
    expect(conditionOf(group)).toBeUndefined();
    const typed = changePart(group, tag.id, (part) => (part.kind === 'test' ? { ...part, test: { fact: 'tag', tag: 'vip' } } : part));
    expect(conditionOf(typed)).toEqual({ fact: 'tag', tag: 'vip' });
    expect(conditionOf(changePart(typed, tag.id, () => null))).toBeNull();
  });

  it('has a beginning for every question there is', () => {
    for (const { fact, schema } of FACTS) {
      const begun = newTest(fact);
      expect(begun.fact).toBe(fact);
      // Whole from the start, or only what a seller knows is missing: a word, a product, a country.
      const problems = schema.safeParse(begun).error?.issues ?? [];
      expect(problems.every(({ code, path }) => code === 'too_small' || path.includes('productId'))).toBe(true);
    }
  });

  it.each(['bought', 'owned', 'country', 'shippingCountry'] as const)('of %s decides nothing before somebody has chosen of what', (fact) => {
    const group: Group = { ...groupOf(null), parts: [{ kind: 'test', id: partId(), test: newTest(fact) }] };
    expect(conditionOf(group)).toBeUndefined();
  });
});
