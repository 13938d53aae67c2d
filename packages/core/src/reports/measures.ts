import { ATTRIBUTION_MODELS } from './attribution';

/** How a figure is written. */
export type MeasureKind = 'count' | 'money' | 'ratio';

interface MeasureRecord {
  name: string;
  kind: MeasureKind;
  /** How it is made, for whoever asks the figure. */
  how: string;
  /** For a figure that is made of others: of which, so that totals are made the same way and never added up. */
  of?: readonly [string, string];
}

/**
 * Every figure of the reports, with how it is made. What has `of` is the first divided by the second; everything else adds
 * up over rows and days. A further figure is one more entry here, and its count in the server's report.
 */
export const MEASURES = {
  visitors: {
    name: 'Visitors',
    kind: 'count',
    how: 'Browsers whose first view lies in the period. Known bots and your own signed-in visits are left out. Each counts once, on the day of its first view.',
  },
  leads: { name: 'Leads', kind: 'count', how: 'Of these visitors, those who left an address, then or later.' },
  leadRate: { name: 'Lead rate', kind: 'ratio', how: 'Leads divided by visitors.', of: ['leads', 'visitors'] },
  converted: { name: 'Bought', kind: 'count', how: 'Of these visitors, those who paid something above 0, then or later.' },
  conversion: { name: 'Conversion', kind: 'ratio', how: 'Those who bought divided by visitors.', of: ['converted', 'visitors'] },
  orders: { name: 'Orders', kind: 'count', how: 'Orders above 0 that were paid in the period. Test orders and gifts are left out.' },
  orderValue: {
    name: 'Order value',
    kind: 'money',
    how: 'What these orders came to on their day with bumps and accepted offers, without tax and shipping, before refunds.',
  },
  averageOrder: {
    name: 'Average order',
    kind: 'money',
    how: 'Order value divided by orders. Later charges of plans are no part of it.',
    of: ['orderValue', 'orders'],
  },
  revenue: {
    name: 'Net revenue',
    kind: 'money',
    how: 'Paid in the period less what was refunded of it, without tax and shipping. A refund counts on the day of its sale; later charges of plans count on their own day.',
  },
  refunded: { name: 'Refunded', kind: 'money', how: 'Given back of what was paid in the period, without tax and shipping.' },
  perVisitor: { name: 'Per visitor', kind: 'money', how: 'Net revenue divided by visitors.', of: ['revenue', 'visitors'] },
  started: { name: 'Checkouts begun', kind: 'count', how: 'Carts in which an address was given, by the day they were begun.' },
  finished: { name: 'Paid', kind: 'count', how: 'Of these carts, those that were paid, then or later.' },
  left: { name: 'Left', kind: 'count', how: 'Of these carts, those that were not paid within an hour.' },
  wonBack: { name: 'Won back', kind: 'count', how: 'Of the carts that were left, those that were paid after that hour.' },
  finishRate: {
    name: 'Paid of begun',
    kind: 'ratio',
    how: 'Carts that were paid divided by those begun; the rest is the abandonment.',
    of: ['finished', 'started'],
  },
  wonBackRate: { name: 'Won back of left', kind: 'ratio', how: 'Carts won back divided by those left.', of: ['wonBack', 'left'] },
  came: { name: 'Came', kind: 'count', how: 'Visitors whose first view of it lies in the period. Each counts once.' },
  reached: {
    name: 'Went on',
    kind: 'count',
    how: 'Of these, those who reached its goal, then or later: an opt-in its form, a checkout the payment, an offer a yes, others the next stop.',
  },
  rate: { name: 'Rate', kind: 'ratio', how: 'Those who went on divided by those who came.', of: ['reached', 'came'] },
  shown: {
    name: 'Shown',
    kind: 'count',
    how: 'Orders whose buyer was shown it in the period; a bump counts for every order that was completed with it on the checkout.',
  },
  taken: { name: 'Taken', kind: 'count', how: 'Of these orders, those that took it.' },
  takeRate: { name: 'Take rate', kind: 'ratio', how: 'Taken divided by shown.', of: ['taken', 'shown'] },
  takenValue: { name: 'Brought', kind: 'money', how: 'What was taken by it, without tax and shipping.' },
  quantity: { name: 'Quantity', kind: 'count', how: 'How many were sold in the period.' },
  discount: { name: 'Discount given', kind: 'money', how: 'What codes took off the payments of the period, as the shop’s prices are.' },
  cost: { name: 'Ad spend', kind: 'money', how: 'What the files of ad spend say for the days of the period.' },
  clicks: { name: 'Clicks', kind: 'count', how: 'Clicks as the platforms count them in these files.' },
  paidLeads: { name: 'Leads of ads', kind: 'count', how: 'Leads of the campaigns that cost something in the period.' },
  paidOrders: { name: 'Orders of ads', kind: 'count', how: 'Orders of the campaigns that cost something in the period.' },
  paidRevenue: { name: 'Net revenue of ads', kind: 'money', how: 'Net revenue of the campaigns that cost something in the period.' },
  costPerLead: { name: 'Cost per lead', kind: 'money', how: 'Ad spend divided by the leads of the campaigns it was spent on.', of: ['cost', 'paidLeads'] },
  costPerSale: { name: 'Cost per sale', kind: 'money', how: 'Ad spend divided by the orders of the campaigns it was spent on.', of: ['cost', 'paidOrders'] },
  returnOnSpend: {
    name: 'Return',
    kind: 'ratio',
    how: 'Net revenue of the campaigns that cost something, divided by ad spend: above 100 % more came in than the ads cost.',
    of: ['paidRevenue', 'cost'],
  },
  fees: { name: 'Fees', kind: 'money', how: 'What processors keep of each payment: the percentage and the fixed amount of your costs.' },
  goods: { name: 'Goods', kind: 'money', how: 'What the goods that were sold cost you: quantity times the cost of one.' },
  sending: { name: 'Shipping', kind: 'money', how: 'What buyers paid for shipping without tax, less what sending costs you of it.' },
  commissions: { name: 'Commissions', kind: 'money', how: 'What partners of both tiers earn of these sales, as it stands after refunds.' },
  profit: {
    name: 'Profit',
    kind: 'money',
    how: 'Net revenue and shipping less ad spend, fees, goods and commissions. Tax is in none of them.',
  },
  subscribed: { name: 'Subscribed', kind: 'count', how: 'Subscriptions that were bought in the month, free trials included. Test orders are left out.' },
  goesOn: { name: 'Go on', kind: 'count', how: 'Of these, those that have not ended.' },
  paidSince: { name: 'Paid so far', kind: 'money', how: 'Paid by them until now for it, less what was given back, without tax and shipping.' },
  perSubscriber: { name: 'Per subscriber', kind: 'money', how: 'Paid so far divided by those who subscribed.', of: ['paidSince', 'subscribed'] },
  dueOne: { name: 'There for one month', kind: 'count', how: 'Of these, those who began at least one month ago.' },
  keptOne: { name: 'Stayed one month', kind: 'count', how: 'Of those who began at least one month ago, those that had not ended one month after they began.' },
  stayOne: {
    name: 'After one month',
    kind: 'ratio',
    how: 'Of those who began at least one month ago, the share that was still subscribed one month after they began.',
    of: ['keptOne', 'dueOne'],
  },
  dueTwo: { name: 'There for two months', kind: 'count', how: 'Of these, those who began at least two months ago.' },
  keptTwo: {
    name: 'Stayed two months',
    kind: 'count',
    how: 'Of those who began at least two months ago, those that had not ended two months after they began.',
  },
  stayTwo: {
    name: 'After two months',
    kind: 'ratio',
    how: 'Of those who began at least two months ago, the share that was still subscribed two months after they began.',
    of: ['keptTwo', 'dueTwo'],
  },
  dueThree: { name: 'There for three months', kind: 'count', how: 'Of these, those who began at least three months ago.' },
  keptThree: {
    name: 'Stayed three months',
    kind: 'count',
    how: 'Of those who began at least three months ago, those that had not ended three months after they began.',
  },
  stayThree: {
    name: 'After three months',
    kind: 'ratio',
    how: 'Of those who began at least three months ago, the share that was still subscribed three months after they began.',
    of: ['keptThree', 'dueThree'],
  },
  dueSix: { name: 'There for six months', kind: 'count', how: 'Of these, those who began at least six months ago.' },
  keptSix: {
    name: 'Stayed six months',
    kind: 'count',
    how: 'Of those who began at least six months ago, those that had not ended six months after they began.',
  },
  staySix: {
    name: 'After six months',
    kind: 'ratio',
    how: 'Of those who began at least six months ago, the share that was still subscribed six months after they began.',
    of: ['keptSix', 'dueSix'],
  },
  dueTwelve: { name: 'There for a year', kind: 'count', how: 'Of these, those who began at least a year ago.' },
  keptTwelve: { name: 'Stayed a year', kind: 'count', how: 'Of those who began at least a year ago, those that had not ended a year after they began.' },
  stayTwelve: {
    name: 'After a year',
    kind: 'ratio',
    how: 'Of those who began at least a year ago, the share that was still subscribed a year after they began.',
    of: ['keptTwelve', 'dueTwelve'],
  },
  owedFirst: { name: 'First visit', kind: 'money', how: ATTRIBUTION_MODELS.first.how },
  owedLast: { name: 'Last visit', kind: 'money', how: ATTRIBUTION_MODELS.last.how },
  owedLinear: { name: 'Linear', kind: 'money', how: ATTRIBUTION_MODELS.linear.how },
  owedPosition: { name: 'By position', kind: 'money', how: ATTRIBUTION_MODELS.position.how },
  owedDecay: { name: 'Time decay', kind: 'money', how: ATTRIBUTION_MODELS.decay.how },
} as const satisfies Record<string, MeasureRecord>;

export type Measure = keyof typeof MEASURES;
/** What is known of one row; null is known to be unknown, and what is missing is 0. */
export type Figures = Partial<Record<Measure, number | null>>;

/** What adds up, of figures. */
export const isAdditive = (measure: Measure): boolean => !('of' in MEASURES[measure]);

/**
 * A figure of a row: as it was counted, or divided out of what was counted.
 * @returns a count, minor units, or a ratio from 0; null where it is unknown or divided by nothing
 */
export function figureOf(figures: Figures, measure: Measure): number | null {
  const record: MeasureRecord = MEASURES[measure];
  if (!record.of) return figures[measure] === undefined ? 0 : figures[measure];
  const [part, whole] = record.of.map((name) => figureOf(figures, name as Measure));
  return part === null || part === undefined || !whole ? null : part / whole;
}

/** Two rows added up; what is unknown in one is unknown in the sum. */
export function addFigures(one: Figures, other: Figures): Figures {
  const sum: Figures = { ...one };
  for (const [name, value] of Object.entries(other) as Array<[Measure, number | null]>) {
    const before = sum[name];
    sum[name] = value === null || before === null ? null : (before ?? 0) + value;
  }
  return sum;
}

/** Net revenue and what shipping leaves, less what ads, fees, goods and commissions cost; minor units. */
export const profitOf = ({ revenue, sending, cost, fees, goods, commissions }: Figures): number =>
  (revenue ?? 0) + (sending ?? 0) - (cost ?? 0) - (fees ?? 0) - (goods ?? 0) - (commissions ?? 0);
