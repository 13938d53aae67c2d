import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';

export type ChargeStatus = 'captured' | 'declined' | 'needs-confirmation' | 'voided';

export interface Charge {
  id: string;
  account: string;
  mode: 'test' | 'live';
  amount: number;
  currency: string;
  status: ChargeStatus;
  declineCode: string | null;
  reference: string;
  idempotencyKey: string;
  card: { last4: string; behaviour: string };
  returnUrl: string | null;
  /** Asked to keep the card for later charges, and what stands for it then. */
  keeps?: boolean;
  method?: string;
  /** What was given back of it, each by its idempotency key. */
  refunds?: Array<{ id: string; amount: number; idempotencyKey: string; at: string }>;
  /** Of a buyer who asked their bank for the money. */
  dispute?: 'open' | 'won' | 'lost';
  /** When something last happened to it. */
  changedAt?: string;
  at: string;
}

export interface Account {
  id: string;
  name: string;
  secretKeys: { test: string; live: string };
  publicKey: string;
  webhook: { url: string; secret: string } | null;
}

export interface Mail {
  id: string;
  messageId: string;
  from: string;
  to: string[];
  subject: string;
  html: string;
  text: string;
  at: string;
  /** What came with it; its content as base64. Mails of before have none. */
  attachments?: Array<{ name: string; type: string; content: string }>;
}

export interface WebhookAttempt {
  id: string;
  type: string;
  url: string;
  status: number | string;
  at: string;
}

/** One conversion at the ad platform, however often and from wherever it was told. */
export interface Conversion {
  pixel: string;
  name: string;
  eventId: string;
  at: string;
  sources: Array<'browser' | 'server'>;
  /** How often it was told in all. */
  times: number;
  value: number | null;
  currency: string | null;
  order: string | null;
  leadEventId: string | null;
  keys: string[];
  testCode: string | null;
}

/** An entry of a domain's names. */
export interface NameRecord {
  type: 'A' | 'CNAME' | 'TXT';
  name: string;
  value: string;
}

/** A question to the register of tax numbers, with its answer. */
export interface TaxNumberCheck {
  reference: string;
  number: string;
  known: boolean;
  asker: string;
  name: string;
  address: string;
  at: string;
}

/** Everything the stand-ins have received, kept in one file so that a restart forgets nothing. */
export interface Ledger {
  accounts: Account[];
  charges: Charge[];
  tokens: Record<string, { last4: string; behaviour: string }>;
  /** Cards kept for later charges, by the processor's id of the method. */
  methods: Record<string, { account: string; card: { last4: string; behaviour: string } }>;
  schools: Array<{ id: string; name: string; token: string }>;
  enrolments: Array<{ id: string; school: string; courseId: string; email: string; firstName: string; at: string }>;
  mails: Mail[];
  webhooks: WebhookAttempt[];
  conversions: Conversion[];
  names: NameRecord[];
  taxRegister: { isDown: boolean; checks: TaxNumberCheck[] };
}

export interface LedgerFile {
  data: Ledger;
  changed: () => void;
  flush: () => void;
}

/** Opens the ledger; without a file it lives in memory. */
export function openLedger(file: string | null): LedgerFile {
  const empty: Ledger = {
    accounts: [],
    charges: [],
    tokens: {},
    methods: {},
    schools: [],
    enrolments: [],
    mails: [],
    webhooks: [],
    conversions: [],
    names: [],
    taxRegister: { isDown: false, checks: [] },
  };
  const data: Ledger = file && existsSync(file) ? { ...empty, ...(JSON.parse(readFileSync(file, 'utf8')) as Ledger) } : empty;
  let timer: NodeJS.Timeout | null = null;
  const flush = () => {
    if (timer) clearTimeout(timer);
    timer = null;
    if (!file) return;
    writeFileSync(`${file}.new`, JSON.stringify(data));
    renameSync(`${file}.new`, file);
  };
  return {
    data,
    changed: () => {
      if (file && !timer) timer = setTimeout(flush, 100);
    },
    flush,
  };
}
