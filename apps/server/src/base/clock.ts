/** The time, as a service, so that a test or a trial run can move it. */
export interface Clock {
  /** Unix time in milliseconds. */
  now(): number;
}

export const systemClock: Clock = { now: () => Date.now() };
