import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { OfferFunnel } from '../apps/server/test/support/offers';
import { newId } from '../apps/server/test/support/products';
import { axeProblems } from './support/axe';
import type { Person } from './support/browser';
import { Key, press } from './support/canvas';
import { arriveAsOwner } from './support/owner';

let ruta: Installation;
let api: Seller;
let seller: Person;
let funnel: OfferFunnel;
const OFFERS = 57;

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  funnel = await OfferFunnel.draw(api);
  const [checkout, end] = [funnel.step('checkout'), funnel.step('thank-you')];
  const offers = Array.from({ length: OFFERS }, (_, index) => ({
    id: newId('step'),
    kind: 'offer',
    name: `Offer ${index + 1}`,
    slug: `offer-${index + 1}`,
    sells: [],
  }));
  const paid = funnel.graph.routes.find(({ from, outcome }: { from: string; outcome: string }) => from === checkout.id && outcome === 'paid');
  await funnel.change([
    ...offers.map((step) => ({ kind: 'addStep', step })),
    { kind: 'changeRoute', routeId: paid.id, changes: { to: offers[0]?.id } },
    ...offers.flatMap(({ id }, index) => [
      { kind: 'addRoute', route: { id: newId('route'), from: id, outcome: 'accepted', priority: 0, to: end.id } },
      { kind: 'addRoute', route: { id: newId('route'), from: id, outcome: 'declined', priority: 0, to: offers[index + 1]?.id ?? end.id } },
    ]),
  ]);
  seller = await arriveAsOwner(ruta.studio);
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
});

const drawn = async () => (await seller.findAll('.react-flow__node')).length;
const placeOf = (name: string) =>
  seller.driver.executeScript<string>(
    `return [...document.querySelectorAll('.react-flow__node')].find((node) => node.textContent.includes(arguments[0])).style.transform`,
    name,
  );
/** The smallest words on the map that can be seen, in pixels of the screen. */
const smallestWords = () =>
  seller.driver.executeScript<number>(`
    const zoom = new DOMMatrix(getComputedStyle(document.querySelector('.react-flow__viewport')).transform).a;
    const seen = [...document.querySelectorAll('.map-words, .map-words *')].filter((it) => it.checkVisibility({ visibilityProperty: true }) && it.childNodes.length > 0);
    return Math.min(...seen.map((it) => parseFloat(getComputedStyle(it).fontSize) * zoom));`);

describe('a map of sixty steps', () => {
  it('is there, with each of its lines and which way it leads, and words that can be read', async () => {
    await seller.open(`${ruta.studio}/funnels/${funnel.id}/map`);
    const all = funnel.graph.steps.length;
    expect(all).toBe(OFFERS + 3);
    await seller.until(async () => (await drawn()) === all, 'every step is drawn');
    await seller.until(async () => !(await seller.text()).includes('Laying out the map'), 'it is laid out with care');
    expect(await seller.findAll('[data-arrowhead]')).toHaveLength(funnel.graph.routes.length);
    expect(await smallestWords()).toBeGreaterThanOrEqual(11.9);
    expect(await axeProblems(seller)).toEqual([]);
  });

  it('keeps its places and how near it is while a step is put in, which is undone and done again by buttons', async () => {
    await seller.click(await seller.find('[aria-label="Larger"]'));
    const zoom = () =>
      seller.driver.executeScript<number>(`return new DOMMatrix(getComputedStyle(document.querySelector('.react-flow__viewport')).transform).a`);
    const first = funnel.step('sales');
    await seller.open(`${ruta.studio}/funnels/${funnel.id}/map/${first.id}`);
    await seller.until(async () => (await drawn()) === OFFERS + 3, 'every step is drawn');
    await seller.until(async () => !(await seller.text()).includes('Laying out the map'), 'it is laid out');
    await seller.click(await seller.find('[aria-label="Larger"]'));
    await seller.until(async () => (await zoom()) > 0.1, 'it is nearer');
    const [near, place] = [await zoom(), await placeOf('Offer 9')];
    await seller.click('Step before it');
    await seller.click(await seller.byWords('Opt-in', '*[@role="menuitem"]'));
    // At once, long before the whole is laid out anew: what was there has not moved.
    await seller.until(async () => (await drawn()) === OFFERS + 4, 'the new step is drawn');
    expect(place).toBeTruthy();
    await seller.until(async () => (await api.read(`/funnels/${funnel.id}`)).graph.entryId !== first.id, 'people arrive at the new step');
    const { graph } = await api.read(`/funnels/${funnel.id}`);
    expect(graph.routes.filter(({ from }: { from: string }) => from === graph.entryId).map(({ to }: { to: string }) => to)).toEqual([first.id]);
    expect(await zoom()).toBeCloseTo(near, 2);
    await seller.click(await seller.find('[aria-label="Undo (Ctrl Z)"]'));
    await seller.until(async () => (await drawn()) === OFFERS + 3, 'it is gone again');
    await seller.until(async () => (await api.read(`/funnels/${funnel.id}`)).graph.entryId === first.id, 'as it was');
    await seller.click(await seller.find('[aria-label="Redo (Ctrl Shift Z)"]'));
    await seller.until(async () => (await drawn()) === OFFERS + 4, 'it is back');
  });

  it('opens the menu of a plus within the window, wherever the plus is', async () => {
    const plus = await seller.driver.executeScript<string>(
      `const low = [...document.querySelectorAll('[aria-label^="Put a stop between"]')].map((it) => [it, it.getBoundingClientRect()])
         .filter(([, box]) => box.bottom < innerHeight && box.top > 0 && box.left > 100 && box.right < innerWidth).sort((one, other) => other[1].top - one[1].top)[0][0];
       low.setAttribute('data-low', ''); low.focus(); return low.getAttribute('aria-label');`,
    );
    expect(plus).toContain('between');
    await press(seller, Key.ENTER);
    await seller.find('[role=menu]');
    expect(
      await seller.driver.executeScript<boolean>(
        `const box = document.querySelector('[role=menu]').getBoundingClientRect(); return box.top >= 0 && box.bottom <= innerHeight && box.left >= 0 && box.right <= innerWidth;`,
      ),
    ).toBe(true);
    await press(seller, Key.ESCAPE);
  });
});
