/** The time, as a service, so that a test or a trial run can move it. */
export interface Clock {
  /** Unix time in milliseconds. */
  now(): number;
  /** Milliseconds since some moment, which no change of the clock moves; the time itself without it. */
  elapsed?(): number;
}

export const systemClock: Clock = { now: () => Date.now(), elapsed: () => performance.now() };
