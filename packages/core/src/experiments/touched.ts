import type { Graph } from '../funnel';
import type { Operation } from '../page';
import type { ArmChanges } from './experiment';

/** The part of a page that an operation touches, as a word by which two tests on the same are found. */
function partsOf(stepId: string, operation: Operation): string[] {
  switch (operation.kind) {
    case 'insertSection':
      return [`${stepId} section ${operation.section.id}`];
    case 'removeSection':
    case 'moveSection':
    case 'changeSection':
    case 'setColumns':
      return [`${stepId} section ${operation.sectionId}`];
    case 'changeColumn':
      return [`${stepId} column ${operation.columnId}`];
    case 'insertElement':
      return [`${stepId} element ${operation.element.id}`];
    case 'removeElement':
    case 'moveElement':
    case 'changeElement':
      return [`${stepId} element ${operation.elementId}`];
    case 'changeSettings':
      return Object.keys(operation.changes).map((key) => `${stepId} ${key}`);
    case 'several':
      return operation.operations.flatMap((each) => partsOf(stepId, each));
    case 'replacePage':
      return [`${stepId} page`];
    default:
      return operation satisfies never;
  }
}

/**
 * The stops at which what an arm changes is first seen or decided: pages that differ, what is sold otherwise, and where
 * another route leads on. Whoever comes to one of them is in the test.
 */
export function stopsTouched(graph: Graph, changes: ArmChanges): string[] {
  const own = new Set(graph.steps.map(({ id }) => id));
  const routes = new Map(graph.routes.map((route) => [route.id, route.from]));
  const ofGraph = changes.graph.flatMap((operation) => {
    switch (operation.kind) {
      case 'addRoute':
        return [operation.route.from];
      case 'removeRoute':
      case 'changeRoute':
        return [routes.get(operation.routeId) ?? ''];
      case 'changeStep':
        return [operation.stepId];
      // A stop comes or goes by its routes, which are told of themselves; no arm has another beginning.
      case 'addStep':
      case 'removeStep':
      case 'setEntry':
        return [];
      default:
        return operation satisfies never;
    }
  });
  return [...new Set([...Object.keys(changes.pages), ...ofGraph])].filter((id) => own.has(id));
}

/** Everything that an arm changes, as words by which two tests on the same thing are found. */
export function partsTouched(graph: Graph, changes: ArmChanges): string[] {
  const ofPages = Object.entries(changes.pages).flatMap(([stepId, operations]) => operations.flatMap((operation) => partsOf(stepId, operation)));
  const routes = new Map(graph.routes.map((route) => [route.id, route]));
  const ofGraph = changes.graph.flatMap((operation) => {
    switch (operation.kind) {
      case 'addRoute':
        return [`ways on from ${operation.route.from}`];
      case 'removeRoute':
      case 'changeRoute':
        return [`ways on from ${routes.get(operation.routeId)?.from ?? operation.routeId}`];
      case 'changeStep':
        return Object.keys(operation.changes).map((key) => `${key} of ${operation.stepId}`);
      case 'addStep':
        return [`stop ${operation.step.id}`];
      case 'removeStep':
        return [`stop ${operation.stepId}`];
      case 'setEntry':
        return ['beginning'];
      default:
        return operation satisfies never;
    }
  });
  return [...new Set([...ofPages, ...ofGraph])];
}

/**
 * Whether two tests change the same thing, so that nobody could say what a visitor saw. A page that is put in its place as a
 * whole meets whatever else is changed on it.
 * @param some what each touches, by `partsTouched`
 */
export function touchTheSame(some: readonly string[], others: readonly string[]): boolean {
  const meets = (parts: readonly string[], whole: string) => whole.endsWith(' page') && parts.some((part) => part.startsWith(whole.slice(0, -'page'.length)));
  return some.some((part) => others.includes(part) || meets(others, part)) || others.some((part) => meets(some, part));
}
