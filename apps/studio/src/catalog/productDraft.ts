import { type Confirmation, type Delivery, type Price, type PriceKind, type Product, type ProductInput, ProductInputSchema } from '@ruta/core/catalog';
import { type Currency, parseMoney, toDecimal } from '@ruta/core/money';
import { fromLocalTime, toLocalTime } from '@ruta/core/shop';
import { newId } from '../base/newId';

/** A price while it is typed: every field of every kind as text, so that changing the kind and back loses nothing. */
export interface PriceDraft {
  id: string;
  name: string;
  description: string;
  kind: PriceKind;
  regular: string;
  /** Instalments: whether the total or the amount of each is typed. */
  typed: 'total' | 'each';
  each: string;
  hasSale: boolean;
  sale: string;
  saleFrom: string;
  saleUntil: string;
  every: string;
  unit: 'day' | 'week' | 'month' | 'year';
  count: string;
  hasTrial: boolean;
  trialDays: string;
  trialPrice: string;
  setUpFee: string;
  ends: boolean;
  charges: string;
  minimum: string;
  suggested: string;
  maximum: string;
  ownConfirmation: boolean;
  confirmation: ConfirmationDraft;
}

export interface ConfirmationDraft {
  kind: Confirmation['kind'];
  text: string;
  buttonWords: string;
  buttonUrl: string;
  url: string;
}

export interface EditionDraft {
  id: string;
  name: string;
  sku: string;
  /** Empty is as the product. */
  kind: Product['kind'] | '';
  taxClass: Product['taxClass'] | '';
  weight: string;
  stock: string;
  prices: PriceDraft[];
}

export interface ProductDraft {
  name: string;
  label: string;
  description: string;
  included: string;
  kind: Product['kind'];
  taxClass: Product['taxClass'];
  status: Product['status'];
  previewUrl: string;
  refundPolicy: string;
  contactEmail: string;
  confirmation: ConfirmationDraft;
  buyAgain: boolean;
  alone: boolean;
  categories: string;
  tags: string;
  editions: EditionDraft[];
  isBundle: boolean;
  bundle: Array<{ productId: string; editionId: string; quantity: string }>;
  linkWords: string;
  linkUrl: string;
  courseUrl: string;
  courseId: string;
  keys: 'none' | 'pattern' | 'list';
  keyPattern: string;
  warnAt: string;
  maxDownloads: string;
  downloadDays: string;
  closesAt: string;
  leadTo: Product['leadTo']['kind'];
  leadText: string;
  leadFunnelId: string;
  leadUrl: string;
}

interface Shop {
  currency: Currency;
  timeZone: string;
}

const EMPTY_CONFIRMATION: ConfirmationDraft = { kind: 'page', text: '', buttonWords: '', buttonUrl: '', url: '' };

/** A price to begin with. */
export function newPrice(): PriceDraft {
  return {
    id: newId('price'),
    name: '',
    description: '',
    kind: 'one-time',
    regular: '',
    typed: 'total',
    each: '',
    hasSale: false,
    sale: '',
    saleFrom: '',
    saleUntil: '',
    every: '1',
    unit: 'month',
    count: '3',
    hasTrial: false,
    trialDays: '14',
    trialPrice: '',
    setUpFee: '',
    ends: false,
    charges: '12',
    minimum: '',
    suggested: '',
    maximum: '',
    ownConfirmation: false,
    confirmation: EMPTY_CONFIRMATION,
  };
}

export const newEdition = (): EditionDraft => ({
  id: newId('edition'),
  name: '',
  sku: '',
  kind: '',
  taxClass: '',
  weight: '',
  stock: '',
  prices: [newPrice()],
});

/** A product as its sheet shows it; without one, an empty sheet. */
export function toDraft(product: Product | null, shop: Shop): ProductDraft {
  const { delivery, leadTo } = product ?? {};
  return {
    name: product?.name ?? '',
    label: product?.label ?? '',
    description: product?.description ?? '',
    included: product?.included.join('\n') ?? '',
    kind: product?.kind ?? 'digital',
    taxClass: product?.taxClass ?? 'standard',
    status: product?.status ?? 'live',
    previewUrl: product?.previewUrl ?? '',
    refundPolicy: product?.refundPolicy ?? '',
    contactEmail: product?.contactEmail ?? '',
    confirmation: product ? confirmationDraft(product.confirmation) : EMPTY_CONFIRMATION,
    buyAgain: product?.buyAgain ?? false,
    alone: product?.alone ?? false,
    categories: product?.categories.join(', ') ?? '',
    tags: product?.tags.join(', ') ?? '',
    editions: product?.editions.map((edition) => ({
      id: edition.id,
      name: edition.name,
      sku: edition.sku,
      kind: edition.kind ?? '',
      taxClass: edition.taxClass ?? '',
      weight: edition.weight === 0 ? '' : String(edition.weight),
      stock: edition.stock === null ? '' : String(edition.stock),
      prices: edition.prices.map((option) => ({
        ...priceDraft(option.price, shop),
        id: option.id,
        name: option.name,
        description: option.description,
        ownConfirmation: option.confirmation !== null,
        confirmation: option.confirmation ? confirmationDraft(option.confirmation) : EMPTY_CONFIRMATION,
      })),
    })) ?? [newEdition()],
    isBundle: (product?.bundle.length ?? 0) > 0,
    bundle: product?.bundle.map((part) => ({ ...part, quantity: String(part.quantity) })) ?? [],
    linkWords: delivery?.link?.words ?? '',
    linkUrl: delivery?.link?.url ?? '',
    courseUrl: delivery?.course?.url ?? '',
    courseId: delivery?.course?.courseId ?? '',
    keys: delivery?.keys?.kind ?? 'none',
    keyPattern: delivery?.keys?.kind === 'pattern' ? delivery.keys.pattern : '****-****-****',
    warnAt: delivery?.keys?.kind === 'list' ? String(delivery.keys.warnAt) : '10',
    maxDownloads: delivery ? (delivery.maxDownloads === null ? '' : String(delivery.maxDownloads)) : '20',
    downloadDays: delivery?.downloadDays == null ? '' : String(delivery.downloadDays),
    closesAt: product?.closesAt ? toLocalTime(product.closesAt, shop.timeZone) : '',
    leadTo: leadTo?.kind ?? 'message',
    leadText: leadTo?.kind === 'message' ? leadTo.text : '',
    leadFunnelId: leadTo?.kind === 'funnel' ? leadTo.funnelId : '',
    leadUrl: leadTo?.kind === 'address' ? leadTo.url : '',
  };
}

function confirmationDraft(confirmation: Confirmation): ConfirmationDraft {
  return { ...EMPTY_CONFIRMATION, ...confirmation };
}

function priceDraft(price: Price, { currency, timeZone }: Shop): PriceDraft {
  const base = { ...newPrice(), kind: price.kind };
  const amount = (minor: number | undefined) => (minor === undefined ? '' : toDecimal(minor, currency));
  if (price.kind === 'free') return base;
  if (price.kind === 'pay-what-you-want')
    return { ...base, minimum: amount(price.minimum), suggested: amount(price.suggested), maximum: amount(price.maximum) };
  const { sale } = price;
  const common = {
    ...base,
    regular: amount(price.regular),
    hasSale: sale !== undefined,
    sale: amount(sale?.amount),
    saleFrom: sale?.from === undefined ? '' : toLocalTime(sale.from, timeZone),
    saleUntil: sale?.until === undefined ? '' : toLocalTime(sale.until, timeZone),
  };
  if (price.kind === 'one-time') return common;
  const timed = { ...common, every: String(price.interval.every), unit: price.interval.unit };
  if (price.kind === 'instalments') return { ...timed, count: String(price.count), each: amount(Math.floor(price.regular / price.count)) };
  return {
    ...timed,
    hasTrial: price.trial !== undefined,
    trialDays: String(price.trial?.days ?? 14),
    trialPrice: price.trial && price.trial.price > 0 ? amount(price.trial.price) : '',
    setUpFee: price.setUpFee ? amount(price.setUpFee) : '',
    ends: price.charges !== null,
    charges: String(price.charges ?? 12),
  };
}

/** Errors by the name of the field in the draft. */
export type DraftErrors = Record<string, string>;

/** The price that a draft stands for, or what is wrong with it by field. */
export function readPrice(draft: PriceDraft, { currency, timeZone }: Shop): { price: unknown; errors: DraftErrors } {
  const errors: DraftErrors = {};
  const money = (name: keyof PriceDraft, needed = true): number | undefined => {
    const text = String(draft[name]);
    if (!needed && text.trim() === '') return undefined;
    const parsed = parseMoney(text, currency);
    if (parsed.ok) return parsed.amount;
    errors[name] = parsed.message;
    return undefined;
  };
  const whole = (name: keyof PriceDraft): number | undefined => {
    const text = String(draft[name]).trim();
    if (/^\d{1,9}$/.test(text)) return Number(text);
    errors[name] = 'Enter a whole number.';
    return undefined;
  };
  const moment = (name: 'saleFrom' | 'saleUntil'): number | undefined => {
    if (draft[name] === '') return undefined;
    const at = fromLocalTime(draft[name], timeZone);
    if (at === null) errors[name] = 'Choose a date and time.';
    return at ?? undefined;
  };
  const sale = () => (draft.hasSale ? { sale: { amount: money('sale'), from: moment('saleFrom'), until: moment('saleUntil') } } : {});
  const interval = () => ({ every: whole('every'), unit: draft.unit });
  const read = (): unknown => {
    switch (draft.kind) {
      case 'free':
        return { kind: 'free' };
      case 'one-time':
        return { kind: 'one-time', regular: money('regular'), ...sale() };
      case 'pay-what-you-want':
        return { kind: 'pay-what-you-want', minimum: money('minimum', false) ?? 0, suggested: money('suggested'), maximum: money('maximum', false) };
      case 'instalments': {
        const count = whole('count');
        const each = draft.typed === 'each' ? money('each') : undefined;
        const total = draft.typed === 'each' ? (each === undefined || count === undefined ? undefined : each * count) : money('regular');
        return { kind: 'instalments', regular: total, count, interval: interval(), ...sale() };
      }
      case 'subscription':
        return {
          kind: 'subscription',
          regular: money('regular'),
          ...sale(),
          interval: interval(),
          ...(draft.hasTrial ? { trial: { days: whole('trialDays'), price: money('trialPrice', false) ?? 0 } } : {}),
          setUpFee: money('setUpFee', false),
          charges: draft.ends ? whole('charges') : null,
        };
    }
  };
  return { price: read(), errors };
}

/** The product that a sheet's draft stands for, or what is wrong with it by field. */
export function readDraft(draft: ProductDraft, pictureIds: string[], shop: Shop): { input: ProductInput } | { errors: DraftErrors } {
  const errors: DraftErrors = {};
  const optionalNumber = (name: string, text: string): number | null => {
    if (text.trim() === '') return null;
    if (/^\d{1,9}$/.test(text.trim())) return Number(text);
    errors[name] = 'Enter a whole number, or leave it empty.';
    return null;
  };
  const lines = (text: string, mark: RegExp) => [
    ...new Set(
      text
        .split(mark)
        .map((word) => word.trim())
        .filter((word) => word !== ''),
    ),
  ];
  const closesAt = draft.closesAt === '' ? null : fromLocalTime(draft.closesAt, shop.timeZone);
  if (draft.closesAt !== '' && closesAt === null) errors.closesAt = 'Choose a date and time.';
  const delivery: unknown = {
    link: draft.linkUrl.trim() === '' ? null : { words: draft.linkWords || 'Open it', url: draft.linkUrl },
    course: draft.courseUrl.trim() === '' && draft.courseId.trim() === '' ? null : { url: draft.courseUrl, courseId: draft.courseId },
    keys: keysOf(draft, optionalNumber),
    maxDownloads: optionalNumber('maxDownloads', draft.maxDownloads),
    downloadDays: optionalNumber('downloadDays', draft.downloadDays),
  } satisfies Record<keyof Delivery, unknown>;
  const candidate = {
    ...draft,
    pictureIds,
    included: lines(draft.included, /\n/),
    categories: lines(draft.categories, /,/),
    tags: lines(draft.tags, /,/),
    confirmation: readConfirmation(draft.confirmation),
    delivery,
    closesAt,
    leadTo:
      draft.leadTo === 'message'
        ? { kind: 'message', text: draft.leadText }
        : draft.leadTo === 'funnel'
          ? { kind: 'funnel', funnelId: draft.leadFunnelId }
          : { kind: 'address', url: draft.leadUrl },
    bundle: draft.isBundle
      ? draft.bundle.map((part, index) => ({ ...part, quantity: optionalNumber(`bundle.${index}.quantity`, part.quantity) ?? undefined }))
      : [],
    editions: draft.editions.map((edition, at) => ({
      id: edition.id,
      name: draft.editions.length > 1 ? edition.name : '',
      sku: edition.sku,
      // What belongs to an edition alone goes with the other editions.
      kind: (draft.editions.length > 1 && edition.kind) || null,
      taxClass: (draft.editions.length > 1 && edition.taxClass) || null,
      weight: optionalNumber(`editions.${at}.weight`, edition.weight) ?? 0,
      stock: optionalNumber(`editions.${at}.stock`, edition.stock),
      prices: edition.prices.map((price, position) => {
        const read = readPrice(price, shop);
        for (const [name, message] of Object.entries(read.errors)) errors[`editions.${at}.prices.${position}.${name}`] = message;
        return {
          id: price.id,
          name: price.name,
          description: price.description,
          price: read.price,
          confirmation: price.ownConfirmation ? readConfirmation(price.confirmation) : null,
        };
      }),
    })),
  };
  const parsed = ProductInputSchema.safeParse(candidate);
  // What could not even be read is said first: the schema would only repeat that it is missing.
  if (!parsed.success) for (const issue of parsed.error.issues) errors[fieldOf(issue.path.map(String))] ??= issue.message;
  if (Object.keys(errors).length > 0 || !parsed.success) return { errors };
  return { input: parsed.data };
}

function keysOf(draft: ProductDraft, optionalNumber: (name: string, text: string) => number | null) {
  if (draft.keys === 'none') return null;
  if (draft.keys === 'pattern') return { kind: 'pattern', pattern: draft.keyPattern };
  return { kind: 'list', warnAt: optionalNumber('warnAt', draft.warnAt) ?? 0 };
}

function readConfirmation({ kind, text, buttonWords, buttonUrl, url }: ConfirmationDraft) {
  return kind === 'page' ? { kind, text, buttonWords, buttonUrl } : { kind, url };
}

const PRICE_FIELDS: Record<string, string> = {
  'sale.amount': 'sale',
  'sale.from': 'saleFrom',
  'sale.until': 'saleUntil',
  'interval.every': 'every',
  'trial.days': 'trialDays',
  'trial.price': 'trialPrice',
};
const FIELDS: Record<string, string> = {
  'delivery.link.url': 'linkUrl',
  'delivery.link.words': 'linkWords',
  'delivery.course.url': 'courseUrl',
  'delivery.course.courseId': 'courseId',
  'delivery.keys.pattern': 'keyPattern',
  'delivery.keys.warnAt': 'warnAt',
  'delivery.maxDownloads': 'maxDownloads',
  'delivery.downloadDays': 'downloadDays',
  'leadTo.text': 'leadText',
  'leadTo.funnelId': 'leadFunnelId',
  'leadTo.url': 'leadUrl',
};

/** The draft's field for a path of the product, as the schema and the server name it. */
export function fieldOf(path: string[]): string {
  const whole = path.join('.');
  const price = /^(editions\.\d+\.prices\.\d+)\.price\.(.+)$/.exec(whole);
  if (price) return `${price[1]}.${PRICE_FIELDS[price[2] ?? ''] ?? price[2]}`;
  return FIELDS[whole] ?? whole.replace(/^(included|categories|tags)\.\d+$/, '$1');
}
