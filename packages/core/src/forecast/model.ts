import { percentOf } from '../money';
import { type ForecastInput, type ForecastStop, type Rate, type Sale, SaleSchema } from './input';
import { inOrder } from './order';

/** The mean of a rate: as it was typed, or of its Beta posterior (prior 1, 1), so that none of three is not never. */
export const meanRate = (rate: Rate): number => ('share' in rate ? rate.share : (rate.reached + 1) / (rate.came + 2));

/** The rate as a report has it, which a forecast of few people smooths; 0 of nobody. */
export const seenRate = (rate: Rate): number => ('share' in rate ? rate.share : rate.came === 0 ? 0 : rate.reached / rate.came);

/** What one stop or bump contributes for each who comes, made ready for many evaluations. */
interface Part {
  /** Which of the rates says how many take it. */
  rate: number;
  /** How many of those who could are asked. */
  shown: number;
  net: number;
  /** What is left of one sale after fees, goods, shipping and commission, before refunds. */
  left: number;
  later: number;
  /** Something is charged for it. */
  isCharged: boolean;
}

interface Place extends Part {
  id: string;
  bumps: Part[];
  /** Where people go on from it, by the place in the order. */
  yes: Array<{ to: number; share: number }>;
  no: Array<{ to: number; share: number }>;
}

/** A funnel made ready to be reckoned with many sets of rates. */
export interface Model {
  places: Place[];
  /** The fixed part of a payment's fee, minor units. */
  feeFixed: number;
  /** Every rate that may differ, with whose it is; the last one is that of refunds. */
  rates: Array<{ id: string; name: string; kind: 'stop' | 'bump' | 'refund'; rate: Rate }>;
  visitors: number;
  clickPrice: number;
}

/** What a funnel comes to with one set of rates. Minor units, for all visitors. */
export interface Reckoned {
  /** Visitors who come to each place, in order. */
  people: Float64Array;
  /** What each place sells without tax and shipping, bumps included, before refunds. */
  income: Float64Array;
  net: number;
  later: number;
  refunded: number;
  profit: number;
}

const NOTHING: Sale = SaleSchema.parse({ net: 0 });

/**
 * Makes a funnel ready. Fees are of what is charged, the fixed part once a payment: bumps are charged together with their stop.
 * @throws RangeError if its stops lead in a circle
 */
export function modelOf(input: ForecastInput): Model {
  const { stops, entryId, fees, refunds, visitors, clickPrice } = input;
  const ordered = inOrder(stops, entryId);
  const placeOf = new Map(ordered.map(({ id }, index) => [id, index]));
  const rates: Model['rates'] = [];
  const part = (sale: Sale, rate: number, fixed: number, shown = 1): Part => {
    const gross = sale.gross ?? sale.net;
    const fee = gross > 0 ? percentOf(gross, fees.percent) + fixed : 0;
    return { rate, shown, net: sale.net, left: sale.net + sale.sending - sale.goods - sale.commission - fee, later: sale.later, isCharged: gross > 0 };
  };
  const know = (id: string, name: string, kind: 'stop' | 'bump' | 'refund', rate: Rate) => rates.push({ id, name, kind, rate }) - 1;
  const ways = (of: ForecastStop['yes']) => of.flatMap(({ to, share }) => (to === null ? [] : [{ to: placeOf.get(to) ?? 0, share }]));
  const places = ordered.map((stop): Place => {
    const own = know(stop.id, stop.name, 'stop', stop.rate);
    const bumps = stop.bumps.map((bump) => part(bump.sale, know(bump.id, bump.name, 'bump', bump.rate), 0, bump.shown));
    return { id: stop.id, ...part(stop.sale ?? NOTHING, own, fees.fixed), bumps, yes: ways(stop.yes), no: ways(stop.no) };
  });
  know('refunds', 'Refunds', 'refund', refunds);
  return { places, rates, visitors, clickPrice, feeFixed: fees.fixed };
}

/**
 * Propagates people through the stops and sums what they bring: expected values, bumps independent of each other. A refund
 * takes the income off, and what the sale left without fees, goods and shipping stays lost.
 * @param rates one for each of the model's
 */
export function reckon({ places, visitors, clickPrice, feeFixed }: Model, rates: ArrayLike<number>, into?: Reckoned): Reckoned {
  const people = into?.people.fill(0) ?? new Float64Array(places.length);
  const income = into?.income ?? new Float64Array(places.length);
  if (people.length > 0) people[0] = visitors;
  let net = 0;
  let left = 0;
  let later = 0;
  for (let index = 0; index < places.length; index++) {
    const place = places[index] as Place;
    const came = people[index] as number;
    const reached = came * (rates[place.rate] as number);
    let sold = reached * place.net;
    left += reached * place.left;
    later += reached * place.later;
    // Where only a bump is charged there is a payment, with its fixed fee, for whoever takes at least one.
    let takesNone = 1;
    for (const bump of place.bumps) {
      const share = bump.shown * (rates[bump.rate] as number);
      const taken = reached * share;
      if (bump.isCharged) takesNone *= 1 - share;
      sold += taken * bump.net;
      left += taken * bump.left;
      later += taken * bump.later;
    }
    if (!place.isCharged) left -= reached * (1 - takesNone) * feeFixed;
    income[index] = sold;
    net += sold;
    for (const { to, share } of place.yes) people[to] = (people[to] as number) + reached * share;
    for (const { to, share } of place.no) people[to] = (people[to] as number) + (came - reached) * share;
  }
  const refunded = net * (rates[rates.length - 1] as number);
  const profit = left - refunded - visitors * clickPrice;
  if (!into) return { people, income, net, later, refunded, profit };
  into.net = net;
  into.later = later;
  into.refunded = refunded;
  into.profit = profit;
  return into;
}
