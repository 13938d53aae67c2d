import { isElementOf } from '@ruta/core/elements';
import { inArm } from '@ruta/core/experiments';
import { allElements, applyOperation, type PageDocument } from '@ruta/core/page';
import { eq } from 'drizzle-orm';
import { afterEach, describe, expect, it } from 'vitest';
import { changeArmMap, openFunnel, openStep, saveArmPage } from '../src/arms/armFunnel';
import { loadExperiment, roundsOf, runningRound } from '../src/arms/store';
import { publishHere } from '../src/checks/publish';
import { changeTest, endTest, planTest, removeTest, startTest } from '../src/experiments/lifecycle';
import { listTests, viewTest } from '../src/experiments/view';
import { watchTests } from '../src/experiments/watch';
import { changeMap } from '../src/funnel/changeMap';
import { publishFunnel } from '../src/funnel/service';
import { loadFunnel, loadStep, saveDraft } from '../src/funnel/store';
import { versionsOf } from '../src/page/versions';
import { visitors } from '../src/tracking/tables';
import { makeEvent, placeOf } from '../src/tracking/visitor';
import { closeShop, DAY, headlineIn, headlineOf, headlineTest, settingsOf, testedShop, written } from './support/testedShop';

afterEach(closeShop);

describe('a test on a headline', () => {
  it('shows each visitor one arm at one address, and puts a winner that has earned it in place', async () => {
    const here = testedShop();
    const { services, funnelId, optIn, day, seen } = here;
    const before = headlineOf(loadStep(services.db, optIn).draft);
    for (let index = 0; index < 5; index++) day(60, { all: 25 });
    const { id, armId } = headlineTest(here);
    changeTest(services, id, { ...settingsOf(services, id), change: 0.4 });
    const planned = viewTest(services, id);
    expect(planned).toMatchObject({ state: 'planned', hindrances: [], warnings: [], goal: 'leads', baseline: { visitors: 300, rate: 0.25 } });
    expect(planned.arms.map(({ differences }) => differences.length)).toEqual([0, 1]);
    // The draft is what it was: an arm is no copy of the page that somebody could edit by mistake.
    expect(headlineOf(loadStep(services.db, optIn).draft)).toBe(before);
    startTest(services, id);

    const arms = Array.from({ length: 400 }, (_, index) => headlineOf(seen(`vis_someone${index}`)?.page as PageDocument));
    expect(new Set(arms)).toEqual(new Set([before, 'Read the sky tonight']));
    expect(arms.map((_, index) => headlineOf(seen(`vis_someone${index}`)?.page as PageDocument))).toEqual(arms);

    for (let index = 0; index < 4; index++) day(200, { [before]: 25, 'Read the sky tonight': 45 });
    await watchTests(services);
    // It is proved already, and the figures say so; but no test decides itself in less than a week.
    expect(viewTest(services, id)).toMatchObject({ state: 'running', rounds: [{ result: { decision: { kind: 'winner', arm: 'B' } } }] });
    for (let index = 0; index < 4; index++) day(200, { [before]: 25, 'Read the sky tonight': 45 });
    await watchTests(services);

    const ended = viewTest(services, id);
    expect(ended).toMatchObject({
      state: 'ended',
      rounds: [{ outcome: 'winner' }],
      arms: [{}, { differences: [{ what: expect.stringContaining('Read the sky tonight') }] }],
    });
    const [round] = ended.rounds;
    const [original, b] = round?.result.arms ?? [];
    expect((original?.visitors ?? 0) + (b?.visitors ?? 0)).toBe(1600);
    // Who falls into which arm is chance: within four standard errors.
    expect(Math.abs((b?.rate ?? 0) - 0.45)).toBeLessThan(0.08);
    expect(round?.days).toHaveLength(8);
    expect(round?.devices).toMatchObject([{ device: 'phone' }]);
    // Everybody sees it now, at the address that it had all the time; the draft has it too.
    expect(new Set(arms.map((_, index) => headlineOf(seen(`vis_someone${index}`)?.page as PageDocument)))).toEqual(new Set(['Read the sky tonight']));
    expect(headlineOf(loadStep(services.db, optIn).draft)).toBe('Read the sky tonight');
    expect(loadFunnel(services.db, funnelId).published?.version).toBe(2);
    expect(listTests(services, { search: 'headl' })).toMatchObject([{ id, state: 'ended', visitors: 1600, outcome: 'winner' }]);
    expect(listTests(services, { search: 'nothing of the kind' })).toEqual([]);
    expect(() => saveArmPage(services, inArm(optIn, armId), { revision: 1, page: loadStep(services.db, optIn).draft })).toThrow('This test has ended');
  });

  it('keeps the original when its last day is over and nothing is proved, and says so', async () => {
    const here = testedShop();
    const { services, optIn, day, seen } = here;
    const before = headlineOf(loadStep(services.db, optIn).draft);
    for (let index = 0; index < 3; index++) day(50, { all: 30 });
    const { id } = headlineTest(here);
    const lastDay = new Date(services.moment.at + 4 * DAY).toISOString().slice(0, 10);
    changeTest(services, id, { ...settingsOf(services, id), ends: 'date', lastDay });
    expect(viewTest(services, id).warnings).toEqual([expect.stringContaining('It will most likely end undecided'), expect.stringContaining('It needs about')]);
    startTest(services, id);
    for (let index = 0; index < 6; index++) {
      day(50, { all: 30 });
      await watchTests(services);
    }
    expect(viewTest(services, id)).toMatchObject({ state: 'ended', rounds: [{ outcome: 'undecided', why: expect.stringContaining('The original stays') }] });
    expect(headlineOf(seen('vis_someone1')?.page as PageDocument)).toBe(before);
    expect(loadFunnel(services.db, here.funnelId).published?.version).toBe(1);
  });

  it('begins a new round when what is under test is published anew, and goes on when something else is', () => {
    const here = testedShop();
    const { services, funnelId, optIn, day } = here;
    day(40, { all: 50 });
    const { id } = headlineTest(here);
    const begun = startTest(services, id);
    // Pressed twice it begins once.
    expect(startTest(services, id).id).toBe(begun.id);
    day(40, { all: 50 });
    const change = (stepId: string, title: string) => {
      const { draft, revision } = loadStep(services.db, stepId);
      saveDraft(services.db, stepId, revision, { ...draft, title }, services.moment.at);
      publishHere(services, funnelId, null);
    };
    const thanks = loadFunnel(services.db, funnelId).graph.steps.find(({ kind }) => kind === 'thank-you')?.id ?? '';
    change(thanks, 'Elsewhere');
    expect(roundsOf(services.db, id)).toHaveLength(1);
    change(optIn, 'Under test');
    const [first, second] = viewTest(services, id).rounds.toReversed();
    expect(first).toMatchObject({ number: 1, outcome: 'changed' });
    expect(first?.result.arms.reduce((sum, arm) => sum + arm.visitors, 0)).toBe(40);
    expect(second).toMatchObject({ number: 2, outcome: null });
    expect(second?.result.arms.map(({ visitors: came }) => came)).toEqual([0, 0]);
    // The same people are in the same arms.
    day(40, { all: 50 });
    expect(viewTest(services, id).rounds[0]?.result.arms.reduce((sum, arm) => sum + arm.visitors, 0)).toBe(40);
  });

  it('rests where an arm does not fit what is live any more, and leaves nobody without a page', async () => {
    const here = testedShop();
    const { services, funnelId, optIn, day, seen } = here;
    day(40, { all: 50 });
    const { id } = headlineTest(here);
    startTest(services, id);
    const { draft, revision } = loadStep(services.db, optIn);
    const without = applyOperation(draft, { kind: 'removeElement', elementId: headlineIn(draft).id }).page;
    saveDraft(services.db, optIn, revision, without, services.moment.at);
    publishFunnel(services, loadFunnel(services.db, funnelId), null);
    for (let index = 0; index < 30; index++) expect(seen(`vis_someone${index}`)?.page).toEqual(without);
    await watchTests(services);
    await watchTests(services);
    expect(viewTest(services, id)).toMatchObject({
      state: 'ended',
      rounds: [{ outcome: 'broken', why: expect.stringContaining('Everybody sees the original') }, { outcome: 'changed' }],
    });
  });

  it('ends when its stop is taken off the map', () => {
    const here = testedShop();
    const { services, funnelId, day } = here;
    day(40, { all: 50 });
    const { graph, funnel } = loadFunnel(services.db, funnelId);
    const { id } = headlineTest(here);
    startTest(services, id);
    const next = graph.routes.find(({ from }) => from === graph.entryId)?.to ?? '';
    const held = graph.routes.filter(({ from, to }) => from === graph.entryId || to === graph.entryId);
    changeMap(
      services,
      funnelId,
      {
        revision: funnel.revision,
        operations: [
          { kind: 'setEntry', stepId: next },
          ...held.map(({ id: routeId }) => ({ kind: 'removeRoute' as const, routeId })),
          { kind: 'removeStep', stepId: graph.entryId },
        ],
      },
      () => undefined,
    );
    publishHere(services, funnelId, null);
    expect(viewTest(services, id)).toMatchObject({ state: 'ended', rounds: [{ outcome: 'stopped', why: expect.stringContaining('taken off the map') }] });
  });
});

describe('who is in a test', () => {
  it('is decided by its audience when they first come, and stays so', () => {
    const here = testedShop();
    const { services, day, seen, happens } = here;
    day(40, { all: 50 });
    const { id } = headlineTest(here);
    changeTest(services, id, { ...settingsOf(services, id), audience: { fact: 'device', device: 'phone' } });
    startTest(services, id);
    const arm = (visitorId: string, device: 'phone' | 'desktop') => seen(visitorId, device)?.arms[0]?.armId;
    expect(arm('vis_onphone1', 'phone')).toBeDefined();
    expect(arm('vis_atdesk01', 'desktop')).toBeUndefined();
    happens('page.viewed', 'vis_onphone1', 'phone');
    happens('page.viewed', 'vis_atdesk01', 'desktop');
    expect(arm('vis_onphone1', 'desktop')).toBe(arm('vis_onphone1', 'phone'));
    expect(viewTest(services, id).rounds[0]?.result.arms.reduce((sum, { visitors: came }) => sum + came, 0)).toBe(1);
  });

  it('is counted by the arm and the moment they first came, whatever arrives twice or late', () => {
    const here = testedShop();
    const { services, day, seen } = here;
    day(40, { all: 50 });
    const { id } = headlineTest(here);
    startTest(services, id);
    const live = seen('vis_sameone1');
    if (!live) throw new Error('There is no page.');
    const event = {
      ...makeEvent(services, 'page.viewed', 'live', null, placeOf(live), 'evt_0000000001late'),
      visitorId: 'vis_sameone1',
      device: 'phone' as const,
    };
    services.recorder.record({ ...event, at: event.at + 60_000 });
    services.recorder.record({ ...event, id: 'evt_0000000002late' });
    services.recorder.record({ ...event, id: 'evt_0000000002late' });
    // In test mode and of somebody without an id nothing is counted.
    services.recorder.record({ ...event, id: 'evt_0000000003late', mode: 'test', visitorId: 'vis_another1' });
    services.recorder.record({ ...event, id: 'evt_0000000004late', visitorId: null });
    const [round] = viewTest(services, id).rounds;
    expect(round?.result.arms.reduce((sum, arm) => sum + arm.visitors, 0)).toBe(1);
  });

  it('is understood when they send a form from an arm that they have no right to any more', () => {
    const here = testedShop();
    const { services, optIn, day, who } = here;
    day(40, { all: 50 });
    const { id, armId } = planTest(services, { funnelId: here.funnelId, stepId: optIn, name: 'Form' });
    const step = openStep(services.db, inArm(optIn, armId));
    const form = allElements(step.draft).find((element) => isElementOf(element, 'form'));
    const place = step.draft.sections.flatMap(({ columns }) => columns).find(({ elements }) => elements.some((element) => element.id === form?.id));
    if (!form || !place) throw new Error('The page has no form.');
    const other = { ...form, id: 'elm_otherform1' };
    const page = [
      { kind: 'removeElement', elementId: form.id } as const,
      { kind: 'insertElement', columnId: place.id, index: 0, element: other } as const,
    ].reduce((current, operation) => applyOperation(current, operation).page, step.draft);
    saveArmPage(services, inArm(optIn, armId), { revision: step.revision, page });
    startTest(services, id);
    const has = (formId: string) => (shown: PageDocument) => allElements(shown).some((element) => element.id === formId);
    for (const formId of [form.id, other.id]) {
      for (const visitor of [null, 'vis_someone1', 'vis_someone2', 'vis_someone3']) {
        const found = services.live.stepHaving(optIn, { ...who(''), visitorId: visitor }, has(formId));
        expect(found && has(formId)(found.page)).toBe(true);
      }
    }
    endTest(services, id, { put: null });
    expect(has(other.id)(services.live.stepHaving(optIn, who('vis_someone1'), has(other.id))?.page as PageDocument)).toBe(true);
  });
});

describe('what stands in the way of a test', () => {
  it('is said in words: nobody comes, nothing differs, nothing is live, the same is tested already', () => {
    const here = testedShop();
    const { services, funnelId, optIn, day } = here;
    const planned = planTest(services, { funnelId, stepId: optIn, name: 'Empty' });
    expect(viewTest(services, planned.id).hindrances).toEqual([
      'B is the same as the original. Open it and change what is to be tried.',
      expect.stringContaining('Nobody came here in the last 28 days'),
    ]);
    expect(() => startTest(services, planned.id)).toThrow('cannot be started yet');
    removeTest(services, planned.id);
    expect(() => loadExperiment(services.db, planned.id)).toThrow();

    day(40, { all: 50 });
    const { id } = headlineTest(here);
    startTest(services, id);
    const second = headlineTest(here, 'Something else', 'Second');
    expect(viewTest(services, second.id).hindrances).toEqual(['“Headline” is running and changes the same thing. End it first, or try something else.']);
    expect(() => removeTest(services, id)).toThrow('This test was begun');

    const { draft, revision } = loadStep(services.db, optIn);
    saveDraft(services.db, optIn, revision, { ...draft, title: 'Not yet live' }, services.moment.at);
    expect(viewTest(services, second.id).hindrances[0]).toContain('not published');
  });

  it('is an arm that breaks the page, and no arm may move an address or the beginning', () => {
    const here = testedShop();
    const { services, funnelId, optIn, day } = here;
    day(40, { all: 50 });
    const { id, armId } = planTest(services, { funnelId, stepId: optIn, name: 'No form' });
    const step = openStep(services.db, inArm(optIn, armId));
    const form = allElements(step.draft).find((element) => isElementOf(element, 'form'));
    saveArmPage(services, inArm(optIn, armId), {
      revision: step.revision,
      page: applyOperation(step.draft, { kind: 'removeElement', elementId: form?.id ?? '' }).page,
    });
    expect(viewTest(services, id).hindrances).toEqual([expect.stringMatching(/^B, “.+”: .*form/i)]);
    expect(() => saveArmPage(services, inArm(optIn, armId), { revision: step.revision, page: step.draft })).toThrow('another window');
    // The funnel itself is the first arm.
    const original = viewTest(services, id).arms[0]?.id ?? '';
    expect(() => saveArmPage(services, inArm(optIn, original), { revision: openStep(services.db, inArm(optIn, original)).revision, page: step.draft })).toThrow(
      'funnel itself',
    );
  });

  it('is not a clock that was set back: nothing ends, and a round ends no earlier than it began', async () => {
    const here = testedShop();
    const { services, day } = here;
    day(40, { all: 50 });
    const { id } = headlineTest(here);
    const lastDay = new Date(services.moment.at + 2 * DAY).toISOString().slice(0, 10);
    changeTest(services, id, { ...settingsOf(services, id), lastDay });
    startTest(services, id);
    services.moment.at -= 30 * DAY;
    await watchTests(services);
    expect(runningRound(services.db, id)).toBeDefined();
    endTest(services, id, { put: null });
    const [round] = roundsOf(services.db, id);
    expect(round?.endedAt).toBe(round?.startedAt);
  });
});

describe('a winner', () => {
  it('takes its place beside what else waits in the draft; where both changed the same, the draft is kept as a version', () => {
    const here = testedShop();
    const { services, optIn, day } = here;
    day(40, { all: 50 });
    const { id, armId } = headlineTest(here);
    startTest(services, id);
    const { draft, revision } = loadStep(services.db, optIn);
    saveDraft(services.db, optIn, revision, { ...draft, title: 'Waits to be published' }, services.moment.at);
    endTest(services, id, { put: armId });
    expect(loadStep(services.db, optIn).draft).toMatchObject({ title: 'Waits to be published' });
    expect(headlineOf(loadStep(services.db, optIn).draft)).toBe('Read the sky tonight');
    const live = here.seen('vis_someone1')?.page as PageDocument;
    expect([headlineOf(live), live.title]).toEqual(['Read the sky tonight', draft.title]);

    const again = headlineTest(here, 'Yet another', 'Again');
    publishHere(services, here.funnelId, null);
    startTest(services, again.id);
    const now = loadStep(services.db, optIn);
    saveDraft(services.db, optIn, now.revision, written(now.draft, 'Typed meanwhile'), services.moment.at);
    endTest(services, again.id, { put: again.armId });
    expect(headlineOf(loadStep(services.db, optIn).draft)).toBe('Yet another');
    expect(versionsOf(services.db, optIn).map(({ name }) => name)).toContain('Draft before “Again” ended');
  });

  it('can be a branch of its own, with a stop that only its visitors are shown', async () => {
    const here = testedShop();
    const { services, funnelId, optIn, day, slug, who } = here;
    day(40, { all: 50 });
    const { id, armId } = planTest(services, { funnelId, stepId: optIn, name: 'A page between' });
    const arm = inArm(funnelId, armId);
    const { graph, funnel } = openFunnel(services.db, arm);
    const route = graph.routes.find(({ from, outcome }) => from === optIn && outcome === 'submitted');
    const extra = { id: 'stp_between00001', kind: 'sales', name: 'Between', slug: 'between', sells: [] } as const;
    changeArmMap(
      services,
      arm,
      {
        revision: funnel.revision,
        operations: [
          { kind: 'addStep', step: { ...extra, sells: [] } },
          { kind: 'changeRoute', routeId: route?.id ?? '', changes: { to: extra.id } },
          { kind: 'addRoute', route: { id: 'rte_between00001', from: extra.id, outcome: 'next', priority: 0, to: route?.to ?? '' } },
        ],
      },
      () => undefined,
    );
    expect(loadFunnel(services.db, funnelId).graph.steps.some((step) => step.id === extra.id)).toBe(false);
    const page = openStep(services.db, inArm(extra.id, armId));
    saveArmPage(services, inArm(extra.id, armId), {
      revision: page.revision,
      page: JSON.parse(JSON.stringify(page.draft).replaceAll('"placeholder":true', '"bold":true')),
    });
    expect(viewTest(services, id)).toMatchObject({ hindrances: [], stops: [{ id: optIn }] });
    startTest(services, id);
    const seenBy = (visitor: string) => services.live.at(slug, extra.slug, who(visitor));
    const people = Array.from({ length: 60 }, (_, index) => `vis_someone${index}`);
    expect(new Set(people.map((visitor) => seenBy(visitor) !== undefined))).toEqual(new Set([true, false]));
    // Whoever follows a link there without being shown it begins at the beginning.
    expect(services.live.insteadOf(slug, extra.slug)?.step.id).toBe(optIn);
    expect(services.live.step(extra.id, { ...who(''), visitorId: null, arms: [{ roundId: runningRound(services.db, id)?.id ?? '', armId }] })?.step.name).toBe(
      'Between',
    );
    endTest(services, id, { put: armId });
    expect(people.every((visitor) => seenBy(visitor)?.step.name === 'Between')).toBe(true);
    expect(loadFunnel(services.db, funnelId).graph.steps.find((step) => step.id === extra.id)).toMatchObject({ name: 'Between' });
    expect(services.db.select().from(visitors).where(eq(visitors.id, 'vis_none')).all()).toEqual([]);
  });

  it('goes live though the draft of the map has moved on, and says what that draft lacks', () => {
    const here = testedShop();
    const { services, funnelId, optIn, day } = here;
    day(40, { all: 50 });
    const { id, armId } = planTest(services, { funnelId, stepId: optIn, name: 'Only the gift' });
    const { graph, funnel } = openFunnel(services.db, inArm(funnelId, armId));
    const route = graph.routes.find(({ from, outcome }) => from === optIn && outcome === 'submitted');
    const thanks = graph.steps.find(({ kind }) => kind === 'thank-you')?.id ?? '';
    const changeRoute = { kind: 'changeRoute' as const, routeId: route?.id ?? '', changes: { to: thanks } };
    changeArmMap(services, inArm(funnelId, armId), { revision: funnel.revision, operations: [changeRoute] }, () => undefined);
    startTest(services, id);
    const draft = loadFunnel(services.db, funnelId).funnel.revision;
    changeMap(services, funnelId, { revision: draft, operations: [{ kind: 'removeRoute', routeId: route?.id ?? '' }] }, () => undefined);
    endTest(services, id, { put: armId });
    expect(viewTest(services, id).rounds[0]?.why).toContain('Publishing the draft would take it away again');
    const { graph: own, published } = loadFunnel(services.db, funnelId);
    expect(published?.snapshot.graph.routes.find(({ id: each }) => each === route?.id)?.to).toBe(thanks);
    expect(own.routes.some(({ id: each }) => each === route?.id)).toBe(false);
  });
});
