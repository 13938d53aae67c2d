import { describe, expect, it } from 'vitest';
import { PassingVisits } from '../src/tracking/passingVisits';

const MINUTE = 60_000;
const clockAt = () => {
  const clock = { at: Date.UTC(2026, 5, 1, 12), now: () => clock.at };
  return clock;
};

describe('a passing visit', () => {
  it('goes on until half an hour of quiet, by where from and by which browser', () => {
    const [clock, visits] = [clockAt(), new PassingVisits()];
    const first = visits.of(clock, '198.18.0.1', 'Phone');
    clock.at += 29 * MINUTE;
    expect(visits.of(clock, '198.18.0.1', 'Phone')).toBe(first);
    clock.at += 29 * MINUTE;
    expect(visits.of(clock, '198.18.0.1', 'Phone')).toBe(first);
    expect(visits.of(clock, '198.18.0.1', 'Tablet')).not.toBe(first);
    expect(visits.of(clock, '198.18.0.2', 'Phone')).not.toBe(first);
    clock.at += 30 * MINUTE;
    expect(visits.of(clock, '198.18.0.1', 'Phone')).not.toBe(first);
  });

  it('is followed from no day to the next, and by no clock that was set back', () => {
    const [clock, visits] = [clockAt(), new PassingVisits()];
    visits.of(clock, '198.18.0.9', 'Phone');
    clock.at += 24 * 60 * MINUTE - MINUTE;
    const late = visits.of(clock, '198.18.0.1', 'Phone');
    clock.at += 2 * MINUTE;
    const next = visits.of(clock, '198.18.0.1', 'Phone');
    expect(next).not.toBe(late);
    clock.at -= 60 * MINUTE;
    expect(visits.of(clock, '198.18.0.1', 'Phone')).not.toBe(next);
  });

  it('goes on as whoever was led here', () => {
    const [clock, visits] = [clockAt(), new PassingVisits()];
    visits.goesOnAs(clock, '198.18.0.1', 'Phone', 'vis_elsewhere1');
    expect(visits.of(clock, '198.18.0.1', 'Phone')).toBe('vis_elsewhere1');
  });
});
