import { words } from '@ruta/core/elements';
import { inArm } from '@ruta/core/experiments';
import type { StepKind } from '@ruta/core/funnel';
import { mainOffer } from '@ruta/core/offers';
import { allElements, applyOperation, type PageDocument } from '@ruta/core/page';
import { dayFinder } from '@ruta/core/shop';
import { eq } from 'drizzle-orm';
import { changeArmMap, openFunnel, openStep, saveArmPage } from '../apps/server/src/arms/armFunnel';
import { loadExperiment, runningRound } from '../apps/server/src/arms/store';
import { experiments } from '../apps/server/src/arms/tables';
import { changeTest, planTest, startTest } from '../apps/server/src/experiments/lifecycle';
import { viewTest } from '../apps/server/src/experiments/view';
import { lookAt } from '../apps/server/src/experiments/watch';
import { loadFunnel } from '../apps/server/src/funnel/store';
import type { AllServices } from '../apps/server/src/openServices';
import type { ArmEffect, Happening } from './replay';

const NO_EFFECT: ArmEffect = { leads: 1, pays: 1 };
const DAY_MS = 24 * 60 * 60 * 1000;

interface SampleTest {
  kind: StepKind;
  name: string;
  question: string;
  goal: 'revenue' | 'sales' | 'leads' | 'next';
  change: number;
  arm: string;
  /** So many days ago it was started; null for one that is only planned. */
  startedAgo: number | null;
  /** Of the days after it was started; without it, it ends when it is decided. */
  lasts?: number;
  learned?: string;
  /** How its arm does better or worse than the original. */
  effect: ArmEffect;
  /** What differs: on the page, or in what is offered. */
  page?: (page: PageDocument) => PageDocument;
  discountPercent?: number;
}

const headline = (text: string) => (page: PageDocument) => {
  const element = allElements(page).find(({ type }) => type === 'headline');
  return element ? applyOperation(page, { kind: 'changeElement', elementId: element.id, changes: { words: words(text) } }).page : page;
};
const button = (text: string) => (page: PageDocument) => {
  const element = allElements(page).find(({ type }) => type === 'button');
  return element ? applyOperation(page, { kind: 'changeElement', elementId: element.id, changes: { words: words(text) } }).page : page;
};

/** The checkout's order form and what stands beside it, all in one column. */
function oneColumn(page: PageDocument): PageDocument {
  const section = page.sections.find(({ columns }) => columns.length > 1 && columns.some(({ elements }) => elements.some(({ type }) => type === 'order-form')));
  const [first] = section?.columns ?? [];
  if (!section || !first) throw new Error('The checkout of the sample shop has no two columns.');
  const { panel: _panel, ...column } = first;
  const elements = section.columns.flatMap((each) => each.elements);
  return applyOperation(page, { kind: 'setColumns', sectionId: section.id, columns: [{ ...column, span: 12, elements }] }).page;
}

const TESTS: SampleTest[] = [
  {
    kind: 'opt-in',
    name: 'Headline of the calendar page',
    question: 'People ask what they will see, not what they will get. Does a headline about tonight bring more addresses?',
    goal: 'leads',
    change: 0.25,
    arm: 'Tonight',
    startedAgo: 104,
    effect: { leads: 1.5, pays: 1 },
    page: headline('Know what the moon does tonight'),
    learned: 'Say what they will see tonight. What they get stands well enough in the second line.',
  },
  {
    kind: 'sales',
    name: 'Button of the course page',
    question: 'Does a button that says what happens next lead more people to the checkout?',
    goal: 'next',
    change: 0.1,
    arm: 'Begin tonight',
    startedAgo: 60,
    lasts: 28,
    effect: { leads: 1, pays: 1 },
    page: button('Begin tonight'),
    learned: 'No difference that four weeks could prove. Not worth another month: try the story above it instead.',
  },
  {
    kind: 'checkout',
    name: 'Checkout in one column or two',
    question: 'On a phone it is one column anyway. Does one column earn more on larger screens too, bumps and upsells included?',
    goal: 'revenue',
    change: 0.3,
    arm: 'One column',
    startedAgo: 20,
    lasts: 70,
    effect: { leads: 1, pays: 1.06 },
    page: oneColumn,
  },
  {
    kind: 'offer',
    name: 'A tenth off the first offer',
    question: 'Does a tenth off bring enough more of them to be worth it?',
    goal: 'revenue',
    change: 0.2,
    arm: 'A tenth off',
    startedAgo: null,
    effect: { leads: 1, pays: 1 },
    discountPercent: 10,
  },
];

/**
 * The four experiments of the sample shop: one with a winner, one honestly undecided, one that runs and one that is planned.
 * Each is planned, begun, looked at every day and ended by the same code as any other.
 * @param apart does something outside of the one transaction in which visitors come
 */
export function sampleTests(services: AllServices, funnelId: string, started: number, apart: (act: () => void) => void) {
  const effects = new Map<string, ArmEffect>();
  const happenings: Happening[] = [];
  for (const test of TESTS) {
    const from = started - (test.startedAgo ?? 0) * DAY_MS;
    let id = '';
    happenings.push({
      at: from,
      run: () =>
        apart(() => {
          const step = loadFunnel(services.db, funnelId).graph.steps.find(({ kind }) => kind === test.kind);
          if (!step) throw new Error(`The sample shop has no ${test.kind}.`);
          const planned = planTest(services, { funnelId, stepId: step.id, name: test.name, goal: test.goal, armName: test.arm });
          id = planned.id;
          effects.set(planned.armId, test.effect);
          change(services, funnelId, step.id, planned.armId, test);
          const view = viewTest(services, id);
          const { arms, audience, ends } = view;
          changeTest(services, id, {
            name: test.name,
            question: test.question,
            goal: test.goal,
            change: test.change,
            audience,
            ends: test.lasts ? 'date' : ends,
            lastDay: test.lasts ? dayFinder('Europe/Lisbon')(from + test.lasts * DAY_MS) : null,
            arms: arms.map(({ id: armId, name, share }) => ({ id: armId, name, share })),
          });
          if (test.startedAgo !== null) startTest(services, id);
        }),
    });
    for (let day = 1; day <= (test.startedAgo ?? 0); day++) {
      happenings.push({
        at: from + day * DAY_MS,
        run: () => {
          const round = runningRound(services.db, id);
          if (!round) return;
          apart(() => {
            if (lookAt(services, loadExperiment(services.db, id), round)) services.changes.announce();
            if (test.learned && !runningRound(services.db, id))
              services.db.update(experiments).set({ learned: test.learned }).where(eq(experiments.id, id)).run();
          });
        },
      });
    }
  }
  return { happenings: happenings.sort((a, b) => a.at - b.at), effectOf: (armId: string): ArmEffect => effects.get(armId) ?? NO_EFFECT };
}

function change(services: AllServices, funnelId: string, stepId: string, armId: string, { page, discountPercent }: SampleTest): void {
  if (page) {
    const step = openStep(services.db, inArm(stepId, armId));
    saveArmPage(services, inArm(stepId, armId), { revision: step.revision, page: page(step.draft) });
  }
  if (discountPercent) {
    const { graph, funnel } = openFunnel(services.db, inArm(funnelId, armId));
    const step = graph.steps.find(({ id }) => id === stepId);
    const main = step && mainOffer(step);
    if (!step || !main) throw new Error('The offer of the sample shop offers nothing.');
    const sells = step.sells.map((offer) =>
      offer.id === main.id ? { ...offer, discount: { kind: 'percent' as const, percent: discountPercent, base: 'current' as const } } : offer,
    );
    changeArmMap(
      services,
      inArm(funnelId, armId),
      { revision: funnel.revision, operations: [{ kind: 'changeStep', stepId, changes: { sells } }] },
      () => undefined,
    );
  }
}
