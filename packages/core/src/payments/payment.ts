import { z } from 'zod';

/** What a payment is for: the first one of an order, a one-click addition, or what a plan goes on owing. */
export const PaymentKindSchema = z.enum(['first', 'addition', 'instalment', 'renewal']);
export type PaymentKind = z.infer<typeof PaymentKindSchema>;

/** Open until a charge pays it, or it is given up. */
export const PaymentStateSchema = z.enum(['open', 'paid', 'cancelled']);
export type PaymentState = z.infer<typeof PaymentStateSchema>;

/** One try to take the money of a payment. Pending and needs-confirmation may still go through. */
export const ChargeStateSchema = z.enum(['pending', 'needs-confirmation', 'captured', 'declined', 'failed', 'voided']);
export type ChargeState = z.infer<typeof ChargeStateSchema>;

/** Whether a try may still take money, so that no other may begin. */
export const isUnderWay = (state: ChargeState): boolean => state === 'pending' || state === 'needs-confirmation';

/**
 * Which of several accounts takes the next charge: a stable share of all payments by weight, so that a payment that is
 * tried again stays where it was. Accounts that are full are left out.
 * @param point from 0 to 1, the same for all tries of one payment
 * @param accounts those that may take it, in the seller's order
 * @returns undefined if none is left
 */
export function chooseAccount<A extends { weight: number; cap: number | null; taken: number }>(
  point: number,
  amount: number,
  accounts: readonly A[],
): A | undefined {
  const open = accounts.filter(({ cap, taken, weight }) => weight > 0 && (cap === null || taken + amount <= cap));
  const all = open.reduce((sum, { weight }) => sum + weight, 0);
  let reached = 0;
  for (const account of open) {
    reached += account.weight;
    if (point * all < reached) return account;
  }
  return open.at(-1);
}
