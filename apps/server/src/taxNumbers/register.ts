import type { TaxRegisterState } from '@ruta/core/pricing';
import { checkTaxNumber, needsRegister } from '@ruta/core/pricing';
import { z } from 'zod';
import type { Clock } from '../base/clock';
import type { Config } from '../base/config';
import type { Limit, Limits } from '../base/limits';

/** What the register said of a number, as proof that it was asked. */
export interface RegisterAnswer {
  state: Exclude<TaxRegisterState, 'unasked'>;
  /** Whose number it is, as the register has it; empty where it does not say. */
  name: string;
  address: string;
  /** By which the register knows this question again; empty for no answer. */
  reference: string;
  /** Unix time in milliseconds. */
  at: number;
}

/** What areas that sell to businesses work with. */
export interface AsksRegister {
  taxRegister: TaxRegister;
}

/** Whoever answers: a further register is one more function like this. @throws whatever keeps it from answering */
export type Register = (number: string) => Promise<Pick<RegisterAnswer, 'name' | 'address' | 'reference'> & { known: boolean }>;

const MINUTE_MS = 60_000;
/** How long an answer is good: a number may be given back tomorrow, and one that was mistyped may be registered. */
const FRESH_MS = { known: 24 * 60 * MINUTE_MS, unknown: 10 * MINUTE_MS, silent: MINUTE_MS };
const MOST_KEPT = 5000;
/** So many numbers one person may have asked for: nobody reads a register through a shop. */
const ASKED: Limit = { name: 'tax-numbers', most: 40, windowMs: 10 * MINUTE_MS };

/** Asks the register of business tax numbers, and remembers its answers for a while. */
export class TaxRegister {
  private readonly answers = new Map<string, RegisterAnswer>();
  private readonly asking = new Map<string, Promise<RegisterAnswer>>();

  constructor(
    private readonly register: Register,
    private readonly clock: Clock,
    private readonly limits: Pick<Limits, 'take'>,
  ) {}

  /** What it said lately of a number that was typed; undefined where it was not asked. */
  latest(typed: string): RegisterAnswer | undefined {
    const check = checkTaxNumber(typed);
    const found = check.ok ? this.answers.get(check.number) : undefined;
    const now = this.clock.now();
    return found && found.at <= now && now - found.at < FRESH_MS[found.state] ? found : undefined;
  }

  /**
   * Has the answer for a number ready, if one is needed: only where tax may be left to the buyer.
   * @param country of the seller
   * @param person whose questions are counted together; null for the shop's own
   */
  async consult(typed: string | undefined, country: string, person: string | null): Promise<RegisterAnswer | undefined> {
    if (!typed || !needsRegister(typed, country)) return undefined;
    const known = this.latest(typed);
    if (known) return known;
    const check = checkTaxNumber(typed);
    if (!check.ok) return undefined;
    const under = this.asking.get(check.number);
    if (under) return under;
    if (person !== null && !this.limits.take(ASKED, person)) return undefined;
    const asked = this.ask(check.number).finally(() => this.asking.delete(check.number));
    this.asking.set(check.number, asked);
    return asked;
  }

  private async ask(number: string): Promise<RegisterAnswer> {
    const answer: RegisterAnswer = await this.register(number).then(
      ({ known, ...rest }) => ({ ...rest, state: known ? ('known' as const) : ('unknown' as const), at: this.clock.now() }),
      // Whatever keeps it from answering: the seller has said what is done then.
      () => ({ state: 'silent' as const, name: '', address: '', reference: '', at: this.clock.now() }),
    );
    this.answers.delete(number);
    this.answers.set(number, answer);
    const [oldest] = this.answers.keys();
    if (this.answers.size > MOST_KEPT && oldest !== undefined) this.answers.delete(oldest);
    return answer;
  }
}

const AnswerSchema = z.object({ known: z.boolean(), name: z.string().max(300), address: z.string().max(500), reference: z.string().max(100) });

/** The register that ships with the other simulated services. */
export const shippedRegister =
  ({ standinsUrl, providerTimeoutMs }: Pick<Config, 'standinsUrl' | 'providerTimeoutMs'>, asker: () => string): Register =>
  async (number) => {
    if (!standinsUrl) throw new Error('There is no register on this installation.');
    const response = await fetch(`${standinsUrl}/tax-register/v1/checks`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ number, asker: asker() }),
      signal: AbortSignal.timeout(Math.min(providerTimeoutMs, 4000)),
    });
    if (!response.ok) throw new Error(`The register answered ${response.status}.`);
    return AnswerSchema.parse(await response.json());
  };
