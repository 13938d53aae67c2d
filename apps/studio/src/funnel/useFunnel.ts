import type { FunnelDetail } from '@ruta/core/checks';
import { inArm } from '@ruta/core/experiments';
import type { Step } from '@ruta/core/funnel';
import type { ShopView } from '@ruta/core/pricing';
import { useOutletContext } from 'react-router';

export interface WorkspaceContext {
  funnel: FunnelDetail;
  shop: ShopView;
}

/** The funnel that the workspace is open at. */
export const useWorkspace = () => useOutletContext<WorkspaceContext>();

/** By which key the page of a stop is opened: its own, or as the arm has it that the funnel is opened as. */
export const pageKey = ({ arm }: Pick<FunnelDetail, 'arm'>, stepId: string): string => (arm ? inArm(stepId, arm.id) : stepId);

/** The stops of a funnel in the order people pass them. */
export function stopsOf(funnel: FunnelDetail): Step[] {
  return funnel.stops.flatMap((id) => funnel.graph.steps.find((step) => step.id === id) ?? []);
}

/** How many changes wait to be published: changed pages, and the funnel's own settings as one. */
export function changeCount(funnel: FunnelDetail): number {
  if (funnel.version === 0) return 0;
  return funnel.changes.stepIds.length + (funnel.changes.settings ? 1 : 0);
}
