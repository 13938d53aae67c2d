import type { Tracked } from './recorder';

/** Asks the reading thread, which sees what is written down: what was gathered is so first. */
export const looking =
  ({ recorder, reading }: Pick<Tracked, 'recorder' | 'reading'>) =>
  // biome-ignore lint/suspicious/noExplicitAny: what it answers is parsed by the operation's own schema
  <Result = any>(what: string, input: unknown): Promise<Result> => {
    recorder.flush();
    // A new shop begins its roll-ups with the first question.
    void recorder.rollUps.generation;
    return reading.ask<Result>(what, input);
  };
