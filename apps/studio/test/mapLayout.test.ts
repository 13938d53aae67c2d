import { type Graph, type Step, StepSchema } from '@ruta/core/funnel';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { headOf, type Layout, type Point, STOP_HEIGHT, STOP_WIDTH } from '../src/map/placed';
import { adapted, layOutSimply } from '../src/map/simpleLayout';

const step = (kind: Step['kind'], number: number): Step =>
  StepSchema.parse({ id: `stp_${String(number).padStart(10, '0')}`, kind, name: `${kind} ${number}`, slug: `${kind}-${number}`, sells: [] });

/** A funnel with some offers behind its checkout: yes leads to the end, no to the next. */
function withOffers(offers: number): Graph {
  const steps = [
    step('opt-in', 1),
    step('sales', 2),
    step('checkout', 3),
    ...Array.from({ length: offers }, (_, index) => step('offer', 10 + index)),
    step('thank-you', 4),
  ];
  const end = steps.at(-1) as Step;
  const routes = steps.slice(0, -1).flatMap((from, index) => {
    const next = steps[index + 1] as Step;
    const to = (outcome: string, target: Step) => ({ id: `rte_${outcome}${from.id.slice(4)}`, from: from.id, outcome, priority: 0, to: target.id });
    return from.kind === 'offer' ? [to('accepted', end), to('declined', next)] : [to(from.kind === 'checkout' ? 'paid' : 'next', next)];
  });
  return { entryId: steps[0]?.id, steps, routes } as Graph;
}

const overlap = (one: Point, other: Point) => Math.abs(one.x - other.x) < STOP_WIDTH && Math.abs(one.y - other.y) < STOP_HEIGHT;
function nothingOverlaps({ positions }: Layout): void {
  const places = Object.values(positions);
  places.forEach((place, index) => {
    expect(places.slice(index + 1).filter((other) => overlap(place, other))).toEqual([]);
  });
}

describe('the layout by bands', () => {
  it('places every step and leads every route, none upon another, however many there are', () => {
    for (const offers of [0, 1, 42, 60, 250]) {
      const graph = withOffers(offers);
      const layout = layOutSimply(graph);
      expect(Object.keys(layout.positions)).toHaveLength(graph.steps.length);
      expect(Object.keys(layout.lines)).toHaveLength(graph.routes.length);
      nothingOverlaps(layout);
      expect(layout.bands.map(({ name }) => name)).toEqual(['Arrive', 'Decide', 'Pay', ...(offers > 0 ? ['Add'] : []), 'Receive']);
    }
  });

  it('begins each line at the right of its step and ends it at the left of the next', () => {
    const graph = withOffers(12);
    const { lines, positions } = layOutSimply(graph);
    for (const { id, from, to } of graph.routes) {
      const points = lines[id]?.points ?? [];
      expect(points[0]?.x).toBe((positions[from]?.x ?? 0) + STOP_WIDTH);
      expect(points.at(-1)?.x).toBe(positions[to]?.x);
    }
  });
});

describe('a map that has changed', () => {
  it('keeps what was placed, and finds a place for each new step', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 12 }), fc.integer({ min: 1, max: 12 }), (before, more) => {
        const old = layOutSimply(withOffers(before));
        const graph = withOffers(before + more);
        const layout = adapted(old, graph);
        for (const [id, place] of Object.entries(old.positions)) expect(layout.positions[id]).toEqual(place);
        expect(Object.keys(layout.positions)).toHaveLength(graph.steps.length);
        expect(Object.keys(layout.lines)).toHaveLength(graph.routes.length);
        nothingOverlaps(layout);
      }),
    );
  });
  it('forgets what is gone', () => {
    const layout = adapted(layOutSimply(withOffers(5)), withOffers(2));
    expect(Object.keys(layout.positions)).toHaveLength(6);
    expect(Object.keys(layout.lines)).toHaveLength(withOffers(2).routes.length);
  });
});

describe('the head of an arrow', () => {
  it('points where the line ends, whichever way it comes', () => {
    expect(
      headOf([
        { x: 0, y: 0 },
        { x: 100, y: 0 },
      ]),
    ).toBe('M 100 0 L 89 5.5 L 89 -5.5 Z');
    expect(
      headOf([
        { x: 100, y: 0 },
        { x: 0, y: 0 },
      ]),
    ).toBe('M 0 0 L 11 -5.5 L 11 5.5 Z');
    // The last corner may stand upon the end.
    expect(
      headOf([
        { x: 0, y: 0 },
        { x: 100, y: 0 },
        { x: 100, y: 0 },
      ]),
    ).toBe('M 100 0 L 89 5.5 L 89 -5.5 Z');
    expect(headOf([])).toBe('');
  });
});
