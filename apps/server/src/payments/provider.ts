import type { Mode } from '@ruta/core/shop';

/** A buyer's bank asks for the money back: it is being looked into, was decided for the shop, or for the buyer. */
export type DisputeState = 'open' | 'won' | 'lost';

/** What a processor says of a charge, in our words. */
export type ChargeAnswer =
  | {
      state: 'captured';
      providerChargeId: string;
      last4: string | null;
      /** As the processor states it, minor units. */
      amount?: number | undefined;
      /** What stands for the card from now on, where it was asked to keep it. */
      method?: string | undefined;
      /** Given back of it in all, whoever asked for it; minor units. */
      refunded?: number | undefined;
      /** The buyer has asked their bank for the money. */
      dispute?: DisputeState | undefined;
    }
  | { state: 'declined'; providerChargeId: string; last4: string | null; reason: string }
  | { state: 'needs-confirmation'; providerChargeId: string; last4: string | null; confirmUrl: string | null }
  | { state: 'voided'; providerChargeId: string; last4: string | null }
  /** It certainly did not happen: the processor was not there, or knows nothing of it after it has answered. */
  | { state: 'unavailable' }
  /** The processor does not know such a charge. */
  | { state: 'unknown-charge' }
  /** No answer, or half of one: it may have happened, so the processor must be asked again. */
  | { state: 'no-answer' };

export interface ChargeRequest {
  amount: number;
  currency: string;
  /** Stands for the card, or for the method that was kept. */
  source: { token: string } | { method: string };
  idempotencyKey: string;
  reference: string;
  returnUrl: string;
  /** Keep the card for later charges, if this one goes through. */
  keep?: boolean;
}

/** What a processor says when it is asked to keep a card for later charges. */
export type KeepAnswer =
  | { state: 'kept'; method: string; last4: string | null }
  | { state: 'declined'; reason: string }
  /** Not there, or no answer: nothing was charged, so it can simply be asked again. */
  | { state: 'unavailable' };

/** What a processor says of money that is to be given back. */
export type RefundAnswer =
  | { state: 'refunded' }
  | { state: 'refused'; reason: string }
  /** Not there, or no answer: it may have happened, so it is asked again with the same key. */
  | { state: 'no-answer' };

/** An account with what opens it. */
export interface OpenAccount {
  id: string;
  provider: string;
  mode: Mode;
  reference: string;
  publicKey: string;
  secretKey: string;
  webhookSecret: string;
}

/** What a provider needs of the installation. */
export interface ProviderSettings {
  /** Where the simulated services are; null where they are off. */
  standinsUrl: string | null;
  timeoutMs: number;
}

/**
 * One processor of payments. A further one is one more file in `providers` with one of these, and its name in the tuple
 * of `registry.ts`.
 */
export interface PaymentProvider {
  provider: string;
  /** Its name as people see it. */
  name: string;
  /** What it takes. */
  method: 'card';
  charge(account: OpenAccount, request: ChargeRequest): Promise<ChargeAnswer>;
  /** Keeps the card behind a token for later charges. */
  keepMethod(account: OpenAccount, token: string): Promise<KeepAnswer>;
  /** Asks after a charge by the key it was made with. */
  find(account: OpenAccount, idempotencyKey: string): Promise<ChargeAnswer>;
  /** Charges of which something has changed since a moment (Unix time in milliseconds); null if it did not answer. */
  changedSince(account: OpenAccount, since: number): Promise<Array<{ idempotencyKey: string; answer: ChargeAnswer }> | null>;
  /** Gives up a charge that still waits for the buyer's confirmation. @returns false if it is past that */
  cancel(account: OpenAccount, providerChargeId: string): Promise<boolean>;
  void(account: OpenAccount, providerChargeId: string): Promise<boolean>;
  /** Gives back a part of a captured charge or all of it; asked twice with one key, once. `amount` in minor units. */
  refund(account: OpenAccount, request: { providerChargeId: string; amount: number; idempotencyKey: string }): Promise<RefundAnswer>;
  /** Checks a webhook's signature. @returns the idempotency key of the charge it tells of; null if it is not genuine */
  readWebhook(account: OpenAccount, headers: Record<string, string>, body: string): string | null;
  /** The frame in which a buyer types their card; null where there is none. */
  cardFields(account: OpenAccount): { url: string; origin: string } | null;
  /** Opens accounts for both modes, and has news sent to an address. @throws Error if the provider cannot be reached */
  openAccounts(shopName: string, webhookUrl: string): Promise<OpenedAccount[]>;
  /** Whether it answers at all. */
  isReachable(): Promise<boolean>;
}

export type OpenedAccount = Omit<OpenAccount, 'id' | 'provider'>;
