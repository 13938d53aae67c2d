import { variantOf } from '@ruta/core/experiments';
import { applyToGraph, GraphSchema } from '@ruta/core/funnel';
import { equal } from '@ruta/core/json';
import { mergePages, type PageDocument } from '@ruta/core/page';
import { eq } from 'drizzle-orm';
import { followPublication } from '../arms/rounds';
import type { RoundArm } from '../arms/tables';
import type { Services } from '../base/services';
import { saveMap } from '../funnel/changeMap';
import { publishFunnel } from '../funnel/service';
import { type FunnelState, latestPublications, loadFunnel, type StepRow, saveDraft } from '../funnel/store';
import { steps } from '../funnel/tables';
import { keepVersion } from '../page/versions';

type Needs = Pick<Services, 'db' | 'clock' | 'changes'>;

/**
 * Puts an arm in the place of the original: what is live becomes what its visitors saw, at the same addresses, and so does
 * the draft. What else was changed in the draft and is not published stays there; where both changed the same thing, the
 * arm's goes on, and the draft as it was is kept as a version of the page.
 * @returns what of it the draft could not take up, in words; null for nothing
 * @throws RangeError if the arm does not fit what is live any more
 */
export function putInPlace(services: Needs, funnelId: string, arm: RoundArm, testName: string): string | null {
  const { db } = services;
  return db.transaction(() => {
    const before = loadFunnel(db, funnelId);
    const { published } = before;
    if (!published) throw new RangeError('The funnel is not live.');
    const snapshot = variantOf(published.snapshot, arm.changes);
    const left = bringDraftUp(services, before, published.snapshot.pages, snapshot.pages, arm, testName);
    const after = loadFunnel(db, funnelId);
    const { name, slug, giftId, brand = null, code = null } = snapshot;
    const rows = new Map(after.steps.map((step) => [step.id, step]));
    const live: FunnelState = {
      funnel: { ...after.funnel, name, slug, giftId, brand, code, entryId: snapshot.graph.entryId },
      graph: snapshot.graph,
      steps: snapshot.graph.steps.flatMap((step): StepRow[] => {
        const row = rows.get(step.id) ?? hiddenStep(services, step.id);
        return row ? [{ ...row, ...step, sharedFrom: step.sharedFrom ?? null, draft: snapshot.pages[step.id] as PageDocument }] : [];
      }),
      published,
    };
    publishFunnel(services, live, null, (tx) => {
      for (const publication of latestPublications(tx)) followPublication(services, tx, publication);
    });
    return left;
  });
}

const hiddenStep = ({ db }: Needs, id: string) => db.select().from(steps).where(eq(steps.id, id)).get() as StepRow | undefined;

/** Does to the draft what the arm does; what does not fit a draft that was changed since is left as it is there. */
function bringDraftUp(
  services: Needs,
  state: FunnelState,
  original: Record<string, PageDocument>,
  winning: Record<string, PageDocument>,
  arm: RoundArm,
  testName: string,
): string | null {
  const { db, clock } = services;
  let left: string | null = null;
  if (arm.changes.graph.length > 0) {
    try {
      const graph = GraphSchema.parse(applyToGraph(state.graph, arm.changes.graph).graph);
      saveMap(db, services, state, graph, (step) => winning[step.id] as PageDocument);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      left = `The draft of the map was changed meanwhile and does not have it (${error.message}) Publishing the draft would take it away again: draw it there first.`;
    }
  }
  for (const step of loadFunnel(db, state.funnel.id).steps) {
    const won = winning[step.id];
    if (!won || !arm.changes.pages[step.id] || equal(step.draft, won)) continue;
    const base = original[step.id];
    const both = base ? mergePages(base, step.draft, won) : null;
    if (!both && base && !equal(base, step.draft))
      keepVersion(services, step.id, { name: `Draft before “${testName}” ended`.slice(0, 80), page: step.draft }, null);
    saveDraft(db, step.id, step.revision, both ?? won, clock.now());
  }
  return left;
}
