import { applyToGraph, type Graph, GraphSchema, graphOperationsBetween } from '../funnel';
import { equal } from '../json';
import { applyOperation, operationsBetween, type PageDocument, PageDocumentSchema } from '../page';
import type { ArmChanges } from './experiment';

/** A funnel as it is shown: its map with what is sold, and a page for each stop. */
export interface Shown {
  graph: Graph;
  pages: Record<string, PageDocument>;
}

/** An empty page, for a stop that the funnel itself does not have. */
const BLANK: PageDocument = { version: 1, title: 'New', description: '', indexed: false, sections: [] };

/**
 * A funnel as one arm has it.
 * @throws RangeError in words for people if what the arm changes is not there any more
 */
export function variantOf<Funnel extends Shown>(funnel: Funnel, changes: ArmChanges): Funnel {
  const graph = changes.graph.length === 0 ? funnel.graph : applied(funnel.graph, changes);
  const pages = { ...funnel.pages };
  for (const [stepId, operations] of Object.entries(changes.pages)) {
    const step = graph.steps.find(({ id }) => id === stepId);
    // A stop that the arm itself takes off the map needs no page.
    if (!step) {
      if (funnel.graph.steps.some(({ id }) => id === stepId)) continue;
      throw new RangeError('A stop whose page this arm changes is not on the map any more.');
    }
    pages[stepId] = changedPage(pages[stepId] ?? BLANK, operations, step.name);
  }
  return { ...funnel, graph, pages };
}

function applied(graph: Graph, changes: ArmChanges): Graph {
  const known = new Set(graph.steps.map(({ slug }) => slug));
  const changed = GraphSchema.parse(applyToGraph(graph, changes.graph).graph);
  for (const operation of changes.graph) {
    if (operation.kind === 'addStep' && known.has(operation.step.slug))
      throw new RangeError(`“${operation.step.name}” has an address that another stop has by now.`);
  }
  return changed;
}

function changedPage(page: PageDocument, operations: ArmChanges['pages'][string], name: string): PageDocument {
  try {
    const changed = operations.reduce((current, operation) => applyOperation(current, operation).page, page);
    return PageDocumentSchema.parse(changed);
  } catch (error) {
    if (error instanceof RangeError) throw new RangeError(`What this arm changes on “${name}” is not on the page any more.`);
    throw new RangeError(`The page “${name}” cannot be shown as this arm has it.`);
  }
}

/**
 * What makes an arm of a funnel: everything that is different in `variant`.
 * @throws RangeError in words for people for what has to be the same in all arms: where visitors arrive, and addresses
 */
export function changesOf(funnel: Shown, variant: Shown): ArmChanges {
  if (funnel.graph.entryId !== variant.graph.entryId) throw new RangeError('Where visitors arrive is the same in all arms. Change that stop’s page instead.');
  const slugs = new Map(funnel.graph.steps.map(({ id, slug }) => [id, slug]));
  for (const { id, slug, name } of variant.graph.steps) {
    if ((slugs.get(id) ?? slug) !== slug) throw new RangeError(`The address of “${name}” is the same in all arms.`);
  }
  return {
    graph: graphOperationsBetween(funnel.graph, variant.graph),
    pages: Object.fromEntries(
      variant.graph.steps.flatMap(({ id }) => {
        const [page, own] = [variant.pages[id], funnel.pages[id]];
        if (!page || (own && equal(own, page))) return [];
        return [[id, own ? operationsBetween(own, page) : [{ kind: 'replacePage', page } as const]]];
      }),
    ),
  };
}
