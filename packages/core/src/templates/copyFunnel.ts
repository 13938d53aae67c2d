import { askingSteps, type Condition } from '../conditions';
import type { Graph } from '../funnel';
import type { NewId } from '../ids';
import { copyPage, leadingTo, mapShown, type PageDocument } from '../page';
import type { DrawnFunnel } from './template';

/** A funnel as another of one's own: every stop, route, offer and page with ids of its own, buttons leading to the new stops. */
export function copyFunnel(graph: Graph, pages: Record<string, PageDocument>, newId: NewId): DrawnFunnel {
  const stepIds = new Map(graph.steps.map((step) => [step.id, newId('step')]));
  const idOf = (id: string) => stepIds.get(id) ?? id;
  const asking = (condition: Condition | null) => condition && askingSteps(condition, idOf);
  const pageOf = (page: PageDocument) =>
    leadingTo(
      mapShown(copyPage(page, newId), (condition) => askingSteps(condition, idOf)),
      idOf,
    );
  return {
    graph: {
      entryId: idOf(graph.entryId),
      steps: graph.steps.map((step) => ({
        ...step,
        id: idOf(step.id),
        sells: step.sharedFrom ? step.sells : step.sells.map((offer) => ({ ...offer, id: newId('offer'), condition: asking(offer.condition) })),
      })),
      routes: graph.routes.map((route) => ({
        ...route,
        id: newId('route'),
        from: idOf(route.from),
        to: idOf(route.to),
        ...(route.condition ? { condition: askingSteps(route.condition, idOf) } : {}),
      })),
    },
    pages: Object.fromEntries(Object.entries(pages).map(([stepId, page]) => [idOf(stepId), pageOf(page)])),
  };
}
