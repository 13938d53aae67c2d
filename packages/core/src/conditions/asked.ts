import { optionsOf, type Product } from '../catalog';
import type { FactTest } from '../facts';
import type { Condition } from './condition';

/** Every question that a condition asks, wherever it stands in it. */
export function questionsOf(condition: Condition): FactTest[] {
  if ('all' in condition) return condition.all.flatMap(questionsOf);
  if ('any' in condition) return condition.any.flatMap(questionsOf);
  if ('not' in condition) return questionsOf(condition.not);
  return [condition];
}

/** A condition whose questions ask something else than they did. */
export function mapQuestions(condition: Condition, change: (question: FactTest) => FactTest): Condition {
  if ('all' in condition) return { all: condition.all.map((part) => mapQuestions(part, change)) };
  if ('any' in condition) return { any: condition.any.map((part) => mapQuestions(part, change)) };
  if ('not' in condition) return { not: mapQuestions(condition.not, change) };
  return change(condition);
}

/** The steps that a condition asks for by their ids. */
export function stepsAsked(condition: Condition): string[] {
  return questionsOf(condition).flatMap((question) => ('stepId' in question ? (question.stepId ?? []) : []));
}

/** A condition about other steps, such as those of a copied funnel. */
export const askingSteps = (condition: Condition, stepOf: (stepId: string) => string): Condition =>
  mapQuestions(condition, (question) => ('stepId' in question && question.stepId !== undefined ? { ...question, stepId: stepOf(question.stepId) } : question));

type Asked = Extract<FactTest, { fact: 'bought' | 'owned' }>['what'];

/** The products, editions and prices that a condition asks for by their ids. */
export function productsAsked(condition: Condition): Asked[] {
  return questionsOf(condition).flatMap((question) =>
    (question.fact === 'bought' || question.fact === 'owned') && question.what.by !== 'category' && question.what.by !== 'tag' ? [question.what] : [],
  );
}

/** Whether what is asked for is among some products. */
export function isSubject(asked: Asked, products: Record<string, Pick<Product, 'editions'>>): boolean {
  if (asked.by === 'product') return products[asked.productId] !== undefined;
  const options = Object.values(products).flatMap((product) => optionsOf(product));
  if (asked.by === 'edition') return options.some(({ edition }) => edition.id === asked.editionId);
  return asked.by !== 'price' || options.some(({ option }) => option.id === asked.priceId);
}
