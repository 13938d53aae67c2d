import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createProduct } from '../src/catalog/service';
import { hindrances } from '../src/checks/detail';
import { problemsOf } from '../src/checks/funnelChecks';
import { changeMap } from '../src/funnel/changeMap';
import { loadFunnel, saveDraft } from '../src/funnel/store';
import { copyOfFunnel, createFunnel } from '../src/templates/createFunnel';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';

let services: TestServices;
let funnelId: string;
let product: Record<'course' | 'sketching' | 'gift' | 'chart', string>;

beforeEach(() => {
  services = testServices();
  const made = (name: string, regular: number) => createProduct(services, selling(name, regular === 0 ? { kind: 'free' } : { kind: 'one-time', regular })).id;
  product = { course: made('First Light', 13_800), sketching: made('Sketching the Sky', 7_200), gift: made('Moon Month', 0), chart: made('Star Chart', 0) };
  funnelId = createFunnel(services, { name: 'Moon Month', template: 'gift-first', productId: product.course, giftId: product.gift });
  writeAll(funnelId);
});
afterEach(() => services.end());

/** As somebody has who wrote over every word of the template. */
function writeAll(id: string) {
  for (const { id: stepId, draft, revision } of loadFunnel(services.db, id).steps)
    saveDraft(services.db, stepId, revision, JSON.parse(JSON.stringify(draft).replaceAll('"placeholder":true', '"bold":true')), 1);
}
const blocking = (id: string) => hindrances(services, id).blocking.map(({ check }) => check);

describe('a copy about other products', () => {
  it('can go live as it is, and nothing of it sells or gives what the first one does', () => {
    const id = copyOfFunnel(services, funnelId, { name: 'Chart', slug: 'chart', productId: product.sketching, giftId: product.chart });
    const { funnel, graph } = loadFunnel(services.db, id);
    expect(funnel).toMatchObject({ name: 'Chart', slug: 'chart', giftId: product.chart });
    expect(JSON.stringify(graph)).not.toContain(product.course);
    expect(JSON.stringify(graph)).not.toContain(product.gift);
    expect(blocking(id)).toEqual([]);
    // The first one is as it was.
    expect(loadFunnel(services.db, funnelId).funnel.giftId).toBe(product.gift);
  });

  it('is refused at its field for what is free, what costs something as a gift, and an address that is taken', () => {
    const copy = (more: object) => () => copyOfFunnel(services, funnelId, { name: 'Chart', ...more });
    expect(copy({ productId: product.chart })).toThrow(expect.objectContaining({ fields: [expect.objectContaining({ path: 'productId' })] }));
    expect(copy({ giftId: product.sketching })).toThrow(expect.objectContaining({ fields: [expect.objectContaining({ path: 'giftId' })] }));
    expect(copy({ slug: loadFunnel(services.db, funnelId).funnel.slug })).toThrow(
      expect.objectContaining({ fields: [expect.objectContaining({ path: 'slug' })] }),
    );
  });

  it('that is moved by half does not go live, and whatever names the first product is told', () => {
    const id = copyOfFunnel(services, funnelId, { name: 'Half', giftId: product.gift });
    const { graph, funnel, steps } = loadFunnel(services.db, id);
    const checkout = graph.steps.find(({ kind }) => kind === 'checkout');
    if (!checkout) throw new Error('There is no checkout.');
    const sells = checkout.sells.map((offer) => ({ ...offer, productId: product.sketching }));
    changeMap(services, id, { revision: funnel.revision, operations: [{ kind: 'changeStep', stepId: checkout.id, changes: { sells } }] }, () => undefined);
    const about = graph.steps.filter((step) => step.sells[0]?.productId === product.course && step.kind !== 'checkout');
    expect(blocking(id).filter((check) => check === 'two-products')).toHaveLength(about.length);

    // Moved whole, with a sentence that somebody wrote about the first.
    const moved = copyOfFunnel(services, funnelId, { name: 'Whole', productId: product.sketching });
    const [first] = loadFunnel(services.db, moved).steps;
    if (!first) throw new Error('There is no page.');
    saveDraft(services.db, first.id, first.revision, { ...first.draft, description: 'All about First Light, for you.' }, 1);
    expect(problemsOf(services, loadFunnel(services.db, moved)).find(({ check }) => check === 'other-names')).toMatchObject({
      stepId: first.id,
      severity: 'warning',
      message: expect.stringContaining('“All about First Light, for you.”'),
    });
    expect(steps.length).toBe(graph.steps.length);
  });
});
