import type { PaymentProvider, ProviderSettings } from '../provider';
import { quayside } from './quayside';

const PROVIDERS = { quayside } as const satisfies Record<string, (settings: ProviderSettings) => PaymentProvider>;
export type ProviderName = keyof typeof PROVIDERS;

export type Providers = Record<ProviderName, PaymentProvider>;

/** Every processor of payments, ready to be asked. */
export function makeProviders(settings: ProviderSettings): Providers {
  return Object.fromEntries(Object.entries(PROVIDERS).map(([name, make]) => [name, make(settings)])) as Providers;
}
