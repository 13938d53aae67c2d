import { type Code, CodeSchema } from '@ruta/core/codes';
import { parseMoney, toDecimal } from '@ruta/core/money';
import { fromLocalTime, toLocalTime } from '@ruta/core/shop';

/** A code while it is typed. */
export interface CodeDraft {
  code: string;
  on: boolean;
  kind: 'percent' | 'fixed';
  percent: string;
  amount: string;
  scope: Code['scope']['kind'];
  productIds: string[];
  payments: Code['payments'];
  minimum: string;
  from: string;
  until: string;
  limit: string;
  limitPerBuyer: string;
}

interface Shop {
  currency: string;
  timeZone: string;
}

export function toCodeDraft(terms: Code | null, { currency, timeZone }: Shop): CodeDraft {
  const moment = (at: number | undefined) => (at === undefined ? '' : toLocalTime(at, timeZone));
  const number = (value: number | undefined) => (value === undefined ? '' : String(value));
  return {
    code: terms?.code ?? '',
    on: terms?.on ?? true,
    kind: terms?.discount.kind ?? 'percent',
    percent: terms?.discount.kind === 'percent' ? String(terms.discount.percent) : '',
    amount: terms?.discount.kind === 'fixed' ? toDecimal(terms.discount.amount, currency) : '',
    scope: terms?.scope.kind ?? 'order',
    productIds: terms?.scope.kind === 'products' ? terms.scope.productIds : [],
    payments: terms?.payments ?? 'first',
    minimum: terms?.minimum === undefined ? '' : toDecimal(terms.minimum, currency),
    from: moment(terms?.from),
    until: moment(terms?.until),
    limit: number(terms?.limit),
    limitPerBuyer: number(terms?.limitPerBuyer),
  };
}

/** The draft's field for a path of the code. */
export const codeFieldOf = (path: string) => ({ 'discount.percent': 'percent', 'discount.amount': 'amount', 'scope.productIds': 'productIds' })[path] ?? path;

/** The code that a draft stands for, or what is wrong with it by field. */
export function readCodeDraft(draft: CodeDraft, { currency, timeZone }: Shop): { terms: Code } | { errors: Record<string, string> } {
  const errors: Record<string, string> = {};
  const money = (name: 'amount' | 'minimum', needed: boolean) => {
    if (!needed && draft[name].trim() === '') return undefined;
    const parsed = parseMoney(draft[name], currency);
    if (parsed.ok) return parsed.amount;
    errors[name] = parsed.message;
    return undefined;
  };
  const whole = (name: 'limit' | 'limitPerBuyer') => {
    const text = draft[name].trim();
    if (text === '') return undefined;
    if (/^\d{1,9}$/.test(text)) return Number(text);
    errors[name] = 'Enter a whole number, or leave it empty.';
    return undefined;
  };
  const moment = (name: 'from' | 'until') => {
    if (draft[name] === '') return undefined;
    const at = fromLocalTime(draft[name], timeZone);
    if (at === null) errors[name] = 'Choose a date and time.';
    return at ?? undefined;
  };
  const percent = draft.percent.trim().replace(',', '.');
  if (draft.kind === 'percent' && !/^\d{1,3}(\.\d{1,4})?$/.test(percent)) errors.percent = 'Enter a percentage, for example 15.';
  const parsed = CodeSchema.safeParse({
    code: draft.code,
    on: draft.on,
    discount: draft.kind === 'percent' ? { kind: 'percent', percent: Number(percent) } : { kind: 'fixed', amount: money('amount', true) },
    scope: draft.scope === 'products' ? { kind: 'products', productIds: draft.productIds } : { kind: draft.scope },
    payments: draft.payments,
    minimum: money('minimum', false),
    from: moment('from'),
    until: moment('until'),
    limit: whole('limit'),
    limitPerBuyer: whole('limitPerBuyer'),
  });
  if (!parsed.success) for (const issue of parsed.error.issues) errors[codeFieldOf(issue.path.join('.'))] ??= issue.message;
  return Object.keys(errors).length > 0 || !parsed.success ? { errors } : { terms: parsed.data };
}
