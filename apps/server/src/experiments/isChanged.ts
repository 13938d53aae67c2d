import type { ExperimentRow, RoundRow } from '../arms/store';
import { revisionOf } from '../base/revision';

/** Whether a test is set otherwise than a round of it began with: what was changed waits for the next round. */
export function isChanged(
  { goal, audience, ends, lastDay }: ExperimentRow,
  arms: ReadonlyArray<{ id: string; name: string; share: number; changes: object }>,
  round: RoundRow,
): boolean {
  const plain = (list: typeof arms) => list.map(({ id, name, share, changes }) => [id, name, share, changes]);
  const { terms } = round;
  const was = [terms.goal, terms.audience, terms.ends, terms.lastDay];
  return revisionOf([[goal, audience, ends, lastDay], plain(arms)]) !== revisionOf([was, plain(round.arms)]);
}
