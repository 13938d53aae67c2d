import { describe, expect, it } from 'vitest';
import { ProductSchema } from '../src/catalog';
import { CHECKS, type CheckedFunnel, checkFunnel } from '../src/checks';
import { boundValuesOf, ELEMENTS, ElementSchema, isElementOf, newElement, UNWRITTEN_QUESTION, wordPlaces, words, wordsAt } from '../src/elements';
import { FACTS, FactTestSchema } from '../src/facts';
import { isGoal, STEP_KINDS, type Step, stepKindOf } from '../src/funnel';
import { type IdKind, makeId } from '../src/ids';
import { formatMoney } from '../src/money';
import { newOffer, OfferSchema } from '../src/offers';
import { isPersonalPage, type PageDocument, PageDocumentSchema, readPage } from '../src/page';
import { buildSection, SECTIONS } from '../src/sections';
import { DEFAULT_BRAND, NO_SELLER } from '../src/shop';
import { drawFunnel, TEMPLATES } from '../src/templates';
import { EVENTS, eventWords } from '../src/tracking';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const page = (...elements: PageDocument['sections'][number]['columns'][number]['elements']): PageDocument => ({
  version: 1,
  title: 'Page',
  description: '',
  indexed: true,
  sections: [
    {
      id: newId('section'),
      name: 'One',
      ground: 'plain',
      space: 'normal',
      align: 'start',
      width: 'normal',
      backdropId: null,
      columns: [{ id: newId('column'), span: 12, elements }],
    },
  ],
});

describe('names in a registry', () => {
  it.each([
    ['elements', ELEMENTS.map(({ type }) => type)],
    ['facts', FACTS.map(({ fact }) => fact)],
    ['events', EVENTS.map(({ kind }) => kind)],
    ['checks', CHECKS.map(({ check }) => check)],
    ['step kinds', STEP_KINDS.map(({ kind }) => kind)],
    ['sections', SECTIONS.map(({ key }) => key)],
    ['templates', TEMPLATES.map(({ template }) => template)],
  ] as Array<[string, string[]]>)('of %s stand for one record each', (_registry, names) => {
    expect(new Set(names).size).toBe(names.length);
  });
});

describe('each element', () => {
  it.each(ELEMENTS.map(({ type }) => type))('%s begins as its own schema says, and its words stand where its record says', (type) => {
    const element = newElement(type, newId);
    expect(ElementSchema.safeParse(element).error).toBeUndefined();
    expect(isElementOf(element, type)).toBe(true);
    for (const path of wordPlaces(element)) expect(Array.isArray(wordsAt(element, path))).toBe(true);
    // As it was stored it comes back, whichever version wrote it.
    expect(readPage(JSON.parse(JSON.stringify(page(element)))).sections[0]?.columns[0]?.elements).toEqual([element]);
  });

  it.each([
    ['text', words('Hello'), false],
    ['text', words('At ', { bound: 'product.price' }), false],
    ['text', words('Dear ', { bound: 'buyer.firstName' }), true],
    ['button', words({ bound: 'order.number' }), true],
  ] as const)('%s with %j makes a page personal: %s', (type, content, expected) => {
    const element = { ...newElement(type, newId), words: content } as ReturnType<typeof newElement>;
    expect(isPersonalPage(page(element))).toBe(expected);
    expect(boundValuesOf(element)).toHaveLength(content.filter((part) => part.type === 'bound').length);
  });

  it('within which a name hides is personal too: in a list, a question, a testimonial', () => {
    const name = words({ bound: 'buyer.firstName' });
    const elements = [newElement('list', newId), newElement('faq', newId)];
    for (const element of elements) {
      expect(isPersonalPage(page(element))).toBe(false);
      const [path = []] = wordPlaces(element);
      const holder = path.slice(0, -1).reduce<Record<string | number, unknown>>((at, key) => at[key] as Record<string, unknown>, element as never);
      holder[path.at(-1) ?? ''] = name;
      expect(isPersonalPage(page(element))).toBe(true);
    }
  });

  it('that is the buyer’s own makes its page personal by itself', () => {
    for (const type of ['order-form', 'receipt', 'downloads'] as const) expect(isPersonalPage(page(newElement(type, newId)))).toBe(true);
  });
});

describe('a stored page', () => {
  it.each([[{}], [{ version: 1 }], [{ ...page(), version: 2, sections: 'none' }], [page({ id: newId('element'), type: 'hologram' } as never)]])(
    'that is none is refused: %j',
    (stored) => expect(() => readPage(stored)).toThrow(),
  );
});

describe('each ready section', () => {
  it.each(SECTIONS)('$key is valid on any page, with ids of its own', ({ plan }) => {
    const sections = [buildSection(plan(), newId), buildSection(plan(), newId)];
    expect(PageDocumentSchema.safeParse({ ...page(), sections }).error).toBeUndefined();
  });
});

describe('each fact', () => {
  it('is asked by name, and nothing else is', () => {
    expect(FactTestSchema.safeParse({ fact: 'device', device: 'phone' }).success).toBe(true);
    expect(FactTestSchema.safeParse({ fact: 'device', device: 'toaster' }).success).toBe(false);
    expect(FactTestSchema.safeParse({ fact: 'shoeSize', size: 43 }).success).toBe(false);
  });
});

describe('each step kind', () => {
  it.each(STEP_KINDS)('$kind has a goal that only its own event reaches', ({ kind, goal }) => {
    expect(stepKindOf(kind).goal).toEqual(goal);
    expect(EVENTS.filter((event) => isGoal(kind, event.kind)).map((event) => event.kind)).toEqual(goal.event === null ? [] : [goal.event]);
  });
});

describe('each event', () => {
  const setting = { stop: 'Checkout', money: (amount: number) => formatMoney(amount, 'EUR') };
  it.each([
    ['page.viewed', {}, /Checkout/],
    ['order.paid', { value: 13_800, currency: 'EUR' }, /€138\.00/],
    ['payment.failed', { reason: 'no-funds' }, /no/i],
    ['file.fetched', { file: 'week one.pdf' }, /week one\.pdf/],
  ] as Array<[string, Record<string, unknown>, RegExp]>)('%s is told in words', (kind, payload, expected) => {
    expect(eventWords(kind, payload, setting)).toMatch(expected);
  });
  it('of a kind that is gone, or kept in another shape, is named and breaks nothing', () => {
    expect(eventWords('order.teleported', {}, setting)).toBe('order.teleported');
    expect(eventWords('order.paid', { value: 'much' }, setting)).toBe('order.paid');
  });
});

describe('each check', () => {
  const product = ProductSchema.parse({
    id: newId('product'),
    name: 'First Light',
    kind: 'service',
    editions: [{ id: newId('edition'), prices: [{ id: newId('price'), price: { kind: 'one-time', regular: 13_800 } }] }],
    pictures: [],
    files: [],
    archivedAt: null,
    createdAt: 1,
    updatedAt: 1,
  });
  const { graph, pages } = drawFunnel('straight-sale', { product }, newId);
  const settings = {
    name: 'Perigee Lane',
    country: 'PT',
    currency: 'EUR',
    timeZone: 'Europe/Lisbon',
    pricesIncludeTax: true,
    contactEmail: 'ines@perigeelane.test',
    mode: 'live' as const,
    brand: DEFAULT_BRAND,
    seller: { ...NO_SELLER, name: 'Perigee Lane, Lda.', address: 'Rua do Luar 14, Coimbra' },
    legal: { privacy: 'What we keep.', terms: 'How you order.', withdrawal: 'Within 14 days.' },
  };
  const withSettings = (changes: object) => (funnel: CheckedFunnel) =>
    void Object.assign(funnel, { shop: { ...funnel.shop, settings: { ...settings, ...changes } } });
  const sound = (): CheckedFunnel => ({
    graph,
    // As its seller has written it.
    pages: JSON.parse(JSON.stringify(pages).replaceAll(',"placeholder":true', '')),
    products: { [product.id]: structuredClone(product) },
    shop: { settings, taxTable: [], shippingTable: [] },
    otherNames: [],
    otherSteps: [],
    waitingDomains: [],
    takesCards: true,
  });
  const checkout = graph.steps.find((step) => step.kind === 'checkout')?.id ?? '';
  const elementsOf = (funnel: CheckedFunnel, stepId: string) => funnel.pages[stepId]?.sections[0]?.columns[0]?.elements ?? [];
  const changeStep = (stepId: string, changes: (step: Step) => Partial<Step>) => (funnel: CheckedFunnel) => {
    const steps = funnel.graph.steps.map((step) => (step.id === stepId ? { ...step, ...changes(step) } : step));
    Object.assign(funnel, { graph: { ...funnel.graph, steps } });
  };
  /** A second offer beside what the checkout sells. */
  const withBump = (changes: object) =>
    changeStep(checkout, (step) => ({ sells: [...step.sells, OfferSchema.parse({ id: newId('offer'), productId: product.id, place: 'bump', ...changes })] }));
  /** Offers behind the checkout, each led to by the yes of the one before it; the last leads to the end, or back. */
  const withOffers =
    (count: number, changes: { back?: boolean; sells?: Step['sells'] } = {}) =>
    (funnel: CheckedFunnel) => {
      const offers = Array.from(
        { length: count },
        (_, index): Step => ({ id: newId('step'), kind: 'offer', name: `Offer ${index}`, slug: `offer-${index}`, sells: changes.sells ?? [] }),
      );
      const ids = [checkout, ...offers.map(({ id }) => id)];
      const lines = ids.slice(1).map((to, index) => ({
        id: newId('route'),
        from: ids[index] as string,
        outcome: index === 0 ? ('paid' as const) : ('accepted' as const),
        priority: -1,
        to,
      }));
      const back = changes.back ? [{ id: newId('route'), from: ids.at(-1) as string, outcome: 'accepted' as const, priority: 0, to: ids[1] as string }] : [];
      const blank = Object.fromEntries(offers.map(({ id }) => [id, page(newElement('offers', newId))]));
      Object.assign(funnel, {
        graph: { ...funnel.graph, steps: [...funnel.graph.steps, ...offers], routes: [...funnel.graph.routes, ...lines, ...back] },
        pages: { ...funnel.pages, ...blank },
      });
    };
  const withProduct = (changes: object) => (funnel: CheckedFunnel) => void Object.assign(funnel.products[product.id] as object, changes);

  it('finds nothing in a sound funnel', () => expect(checkFunnel(sound())).toEqual([]));

  it.each<[string, 'blocking' | 'warning', (funnel: CheckedFunnel) => void]>([
    ['nothing-sold', 'blocking', (funnel) => void Object.assign(funnel, { products: {} })],
    ['archived-product', 'blocking', withProduct({ archivedAt: 1 })],
    ['switched-off-product', 'warning', withProduct({ status: 'off' })],
    ['switched-off-product', 'warning', withProduct({ status: 'test' })],
    ['missing-form', 'blocking', (funnel) => void Object.assign(funnel.pages, { [checkout]: page(newElement('headline', newId)) })],
    ['no-payment', 'warning', (funnel) => void Object.assign(funnel, { takesCards: false })],
    ['domain-waits', 'warning', (funnel) => void Object.assign(funnel, { waitingDomains: ['sky.example.test'] })],
    ['legal-pages', 'blocking', withSettings({ seller: undefined })],
    ['legal-pages', 'blocking', withSettings({ legal: { ...settings.legal, privacy: 'Kept by [whom].' } })],
    ['legal-pages-to-write', 'warning', withSettings({ mode: 'test', seller: undefined })],
    ['terms-unwritten', 'warning', withSettings({ legal: { ...settings.legal, terms: '' } })],
    ['no-shipping', 'blocking', withProduct({ kind: 'physical' })],
    ['nothing-delivered', 'warning', withProduct({ kind: 'digital' })],
    [
      'sold-alone',
      'blocking',
      (funnel) => {
        withProduct({ alone: true })(funnel);
        const steps = funnel.graph.steps.map((step) => (step.id === checkout ? { ...step, sells: [...step.sells, ...step.sells] } : step));
        Object.assign(funnel, { graph: { ...funnel.graph, steps } });
      },
    ],
    ['placeholders', 'blocking', (funnel) => void elementsOf(funnel, graph.entryId).push(newElement('text', newId) as never)],
    [
      'placeholders-to-write',
      'warning',
      (funnel) => {
        withSettings({ mode: 'test' })(funnel);
        elementsOf(funnel, graph.entryId).push(newElement('text', newId) as never);
      },
    ],
    [
      'placeholders',
      'blocking',
      (funnel) => {
        const items = [{ question: UNWRITTEN_QUESTION, answer: [{ type: 'text', text: 'An answer' }] }];
        elementsOf(funnel, graph.entryId).push({ ...newElement('faq', newId), items } as never);
      },
    ],
    [
      'placeholders',
      'blocking',
      (funnel) => {
        const items = [{ words: words('So good.'), name: '', detail: '' }];
        elementsOf(funnel, graph.entryId).push({ ...newElement('testimonials', newId), items } as never);
      },
    ],
    ['one-headline', 'warning', (funnel) => void elementsOf(funnel, graph.entryId).push({ ...newElement('headline', newId), level: 1 } as never)],
    [
      'text-alternatives',
      'warning',
      (funnel) => void elementsOf(funnel, graph.entryId).push({ ...newElement('picture', newId), source: { kind: 'product' }, alt: '' } as never),
    ],
    [
      'button-targets',
      'blocking',
      (funnel) => void elementsOf(funnel, graph.entryId).push({ ...newElement('button', newId), action: { kind: 'step', stepId: newId('step') } } as never),
    ],
    ['gone-offers', 'warning', withBump({ productId: newId('product') })],
    ['broken-offers', 'warning', withBump({ priceId: newId('price') })],
    [
      'dearer-offers',
      'warning',
      (funnel) => {
        const price = { kind: 'one-time', regular: 13_800, sale: { amount: 10_000 } };
        withProduct({ editions: product.editions.map((edition) => ({ ...edition, prices: edition.prices.map((option) => ({ ...option, price })) })) })(funnel);
        withBump({ discount: { kind: 'percent', percent: 10, base: 'regular' } })(funnel);
      },
    ],
    ['dear-bumps', 'warning', withBump({ quantity: 2 })],
    ['ticked-bumps', 'warning', withBump({ bump: { ticked: true } })],
    [
      'own-price-of-many',
      'blocking',
      (funnel) => {
        const twice = product.editions.map((edition) => ({
          ...edition,
          prices: edition.prices.flatMap((option) => [option, { ...option, id: newId('price') }]),
        }));
        withProduct({ editions: twice })(funnel);
        withBump({ ownPrice: 9_900 })(funnel);
      },
    ],
    ['own-prices-differ', 'blocking', changeStep(checkout, (step) => ({ sells: step.sells.map((each) => ({ ...each, ownPrice: 9_900 })) }))],
    [
      'deadline-untold',
      'warning',
      withOffers(1, { sells: [{ ...newOffer(newId('offer'), product.id), deadline: { until: { kind: 'minutes', minutes: 15 }, afterwards: 'gone' } }] }),
    ],
    [
      'countdown-to-nothing',
      'warning',
      (funnel) => {
        withOffers(1)(funnel);
        const offer = funnel.graph.steps.at(-1)?.id ?? '';
        Object.assign(funnel.pages, { [offer]: page(newElement('countdown', newId), newElement('offers', newId)) });
      },
    ],
    ['just-bought', 'warning', withOffers(1, { sells: [newOffer(newId('offer'), product.id)] })],
    [
      'two-products',
      'blocking',
      (funnel) => {
        funnel.products.prd_other00000 = { ...structuredClone(product), id: 'prd_other00000', name: 'Sketching' };
        changeStep(checkout, (step) => ({ sells: step.sells.map((each) => ({ ...each, productId: 'prd_other00000' })) }))(funnel);
      },
    ],
    [
      'other-names',
      'warning',
      (funnel) => {
        Object.assign(funnel, { otherNames: ['Moon Month'] });
        elementsOf(funnel, graph.entryId).push({ ...newElement('text', newId), words: words('As in Moon Month, but brighter.') } as never);
      },
    ],
    ['many-offers', 'warning', withOffers(3)],
    ['loop', 'blocking', withOffers(2, { back: true })],
    [
      'no-way-on',
      'warning',
      (funnel) => void Object.assign(funnel, { graph: { ...graph, routes: graph.routes.filter(({ from }) => from !== graph.entryId) } }),
    ],
    ['unreachable', 'warning', (funnel) => void Object.assign(funnel, { graph: { ...graph, routes: graph.routes.filter(({ to }) => to !== checkout) } })],
    ['condition-on-nothing', 'warning', withBump({ condition: { not: { fact: 'owned', what: { by: 'product', productId: 'prd_gone000000' } } } })],
  ])('%s (%s) finds what it is there for', (check, severity, breakIt) => {
    const funnel = sound();
    breakIt(funnel);
    const found = checkFunnel(funnel).filter((problem) => problem.check === check);
    expect(found.length).toBeGreaterThan(0);
    for (const problem of found) {
      expect(problem.severity).toBe(severity);
      expect(funnel.graph.steps.map((step) => step.id)).toContain(problem.stepId);
      expect(problem.message).toMatch(/\.$/);
    }
  });

  it('takes a drawing without words for an ornament', () => {
    const funnel = sound();
    elementsOf(funnel, graph.entryId).push({ ...newElement('picture', newId), source: { kind: 'drawing', name: 'moon-hills' }, alt: '' } as never);
    expect(checkFunnel(funnel).filter(({ check }) => check === 'text-alternatives')).toEqual([]);
  });

  it('lets a page be about what a bundle brings, and what has closed lead to something else', () => {
    const other = { ...structuredClone(product), id: 'prd_other00000', name: 'Whole sky' };
    const about = (changes: Partial<Step>, bundle: string[]) => {
      const funnel = sound();
      funnel.products[other.id] = { ...other, bundle: bundle.map((productId) => ({ productId, editionId: 'edn_any0000000', quantity: 1 })) };
      changeStep(checkout, (step) => ({ sells: step.sells.map((each) => ({ ...each, productId: other.id })) }))(funnel);
      changeStep(graph.entryId, () => changes)(funnel);
      return checkFunnel(funnel).flatMap(({ check, stepId, message }) => (check === 'two-products' && stepId === graph.entryId ? [message] : []));
    };
    expect(about({}, [])).toEqual([
      'This page is about “First Light”, but the checkout it leads to, “Checkout”, sells “Whole sky”. Choose the same product at both.',
    ]);
    expect(about({}, [product.id])).toEqual([]);
    expect(about({ kind: 'closed' }, [])).toEqual([]);
    expect(about({ kind: 'waiting-list' }, [])).toEqual([]);
  });

  it('names a product only where it stands as a word of its own, and is not within the name of what is sold', () => {
    const named = (otherNames: string[], text: string) => {
      const funnel = { ...sound(), otherNames };
      elementsOf(funnel, graph.entryId).push({ ...newElement('text', newId), words: words(text) } as never);
      return checkFunnel(funnel).flatMap(({ check, message }) => (check === 'other-names' ? [message] : []));
    };
    expect(named(['Orbit'], 'Orbits and all that. In orbit.')).toEqual([]);
    expect(named(['Ink'], 'Ink runs.')).toEqual([]);
    expect(named([product.name.slice(0, 5)], `${product.name.slice(0, 5)} of all`)).toEqual([]);
    expect(named(['Orbit'], 'Everybody who has ever bought Orbit wants to see more of it.')).toEqual([
      'This page names “Orbit”, which this funnel does not sell: “…ody who has ever bought Orbit wants to see more of it…”. Change it, unless it is meant.',
    ]);
  });

  it('is tried here', () => {
    const tried = ['nothing-sold', 'archived-product', 'switched-off-product', 'missing-form', 'no-payment', 'domain-waits', 'no-shipping', 'sold-alone'];
    const ofPages = ['placeholders', 'placeholders-to-write', 'nothing-delivered', 'one-headline', 'text-alternatives', 'button-targets'];
    const ofOffers = [
      'gone-offers',
      'broken-offers',
      'dearer-offers',
      'dear-bumps',
      'ticked-bumps',
      'just-bought',
      'many-offers',
      'deadline-untold',
      'countdown-to-nothing',
      'own-price-of-many',
      'own-prices-differ',
    ];
    const ofLaw = ['legal-pages', 'legal-pages-to-write', 'terms-unwritten'];
    const ofMaps = ['loop', 'no-way-on', 'unreachable', 'condition-on-nothing', 'two-products', 'other-names'];
    expect(CHECKS.map(({ check }) => check).toSorted()).toEqual([...tried, ...ofPages, ...ofOffers, ...ofMaps, ...ofLaw].toSorted());
  });
});
