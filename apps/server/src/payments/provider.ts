import type { Mode } from '@ruta/core';

/** What a processor says of a charge, in our words. */
export type ChargeAnswer =
  | { state: 'captured'; providerChargeId: string; last4: string | null }
  | { state: 'declined'; providerChargeId: string; last4: string | null; reason: string }
  | { state: 'needs-confirmation'; providerChargeId: string; last4: string | null; confirmUrl: string | null }
  | { state: 'voided'; providerChargeId: string; last4: string | null }
  /** It certainly did not happen: the processor refused the call or was not there. */
  | { state: 'unavailable' }
  /** The processor does not know such a charge. */
  | { state: 'unknown-charge' }
  /** No answer, or half of one: it may have happened, so the processor must be asked again. */
  | { state: 'no-answer' };

export interface ChargeRequest {
  amount: number;
  currency: string;
  token: string;
  idempotencyKey: string;
  reference: string;
  returnUrl: string;
}

/** One processor of payments. A further one is one more file that fits this. */
export interface PaymentProvider {
  charge(mode: Mode, request: ChargeRequest): Promise<ChargeAnswer>;
  /** Asks after a charge by the key it was made with. */
  find(mode: Mode, idempotencyKey: string): Promise<ChargeAnswer>;
  /** Gives up a charge that still waits for the buyer's confirmation. @returns false if it is past that */
  cancel(mode: Mode, providerChargeId: string): Promise<boolean>;
  void(mode: Mode, providerChargeId: string): Promise<boolean>;
  /** Checks a webhook's signature. @returns the idempotency key of the charge it tells of; null if it is not genuine */
  readWebhook(headers: Record<string, string>, body: string): string | null;
}
