/** Stands between the id of a funnel or a stop and the arm as which it is opened: `fun_…~arm_…`. */
const MARK = '~';

/** The id by which a funnel or a stop is opened as one arm has it. */
export const inArm = (id: string, armId: string): string => `${id}${MARK}${armId}`;

/** The id of a funnel or stop, and of the arm as which it was asked for; null for the funnel itself. */
export function splitArm(id: string): { id: string; armId: string | null } {
  const mark = id.indexOf(MARK);
  return mark < 0 ? { id, armId: null } : { id: id.slice(0, mark), armId: id.slice(mark + 1) };
}
