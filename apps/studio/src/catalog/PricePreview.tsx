import { PriceSchema, priceWords } from '@ruta/core/catalog';
import { formatMoney } from '@ruta/core/money';
import { dateWords, type Quote, quoteCart } from '@ruta/core/pricing';
import { useFormContext } from 'react-hook-form';
import { shopApi } from '../shop/api';
import { type ProductDraft, readPrice } from './productDraft';

const SHOWN_PAYMENTS = 4;

/** What a buyer at home would read and pay for the price as it stands typed: today, later, in all, and when. */
export function PricePreview({ path }: { path: string }) {
  const { data: shop } = shopApi.useShopQuery();
  const { watch } = useFormContext<ProductDraft>();
  const draft = watch(path as 'editions.0.prices.0');
  const edition = /^editions\.(\d+)/.exec(path)?.[1];
  const taxClass = watch(`editions.${Number(edition)}.taxClass`) || watch('taxClass');
  if (!shop) return null;
  const { currency, timeZone } = shop.settings;
  const { price: read, errors } = readPrice(draft, { currency, timeZone });
  const parsed = PriceSchema.safeParse(read);
  if (!parsed.success || Object.keys(errors).length > 0) {
    return (
      <aside className="rounded-md bg-ground px-4 py-3 text-soft" aria-label="What buyers pay">
        What buyers pay stands here once the price is complete.
      </aside>
    );
  }
  const now = Date.now();
  // The price alone: whatever kind the product is, shipping comes on top at the checkout.
  const line = {
    id: 'main',
    productId: 'preview',
    name: 'Preview',
    role: 'main' as const,
    kind: 'digital' as const,
    taxClass,
    weight: 0,
    price: parsed.data,
    quantity: 1,
  };
  const quote = quoteCart(shop, { lines: [line], buyer: { country: shop.settings.country } }, now);
  return <Preview quote={quote} words={priceWords(parsed.data, currency, now)} includesTax={shop.settings.pricesIncludeTax} />;
}

function Preview({ quote, words, includesTax }: { quote: Quote; words: string; includesTax: boolean }) {
  const money = (amount: number) => formatMoney(amount, quote.currency);
  const [line] = quote.lines;
  const wasDearer = line && line.part !== 'trial' && (line.struckUnit ?? 0) > line.currentUnit;
  return (
    <aside className="rounded-md bg-ground px-4 py-3" aria-label="What buyers pay">
      <p className="text-soft">Buyers read</p>
      <p className="font-semibold mb-2">
        {wasDearer ? <s className="text-soft font-normal mr-1.5">{formatMoney(line.struckUnit ?? 0, quote.currency, { short: true })}</s> : null}
        {words}
      </p>
      <dl className="grid grid-cols-[1fr_auto] gap-x-3 gap-y-0.5 figures">
        <dt>Today</dt>
        <dd className="text-right font-semibold">{money(quote.dueToday)}</dd>
        {quote.later.slice(0, SHOWN_PAYMENTS).map((payment) => (
          <div key={payment.due} className="contents">
            <dt className="text-soft">{dateWords(payment.date)}</dt>
            <dd className="text-right">{money(payment.total)}</dd>
          </div>
        ))}
        {quote.later.length > SHOWN_PAYMENTS ? (
          <div className="contents">
            <dt className="text-soft">
              and {quote.later.length - SHOWN_PAYMENTS} more, the last {dateWords(quote.later.at(-1)?.date ?? '')}
            </dt>
            <dd />
          </div>
        ) : null}
        {quote.later.length > 0 ? (
          <>
            <dt className="border-t border-line pt-1 mt-1">In all</dt>
            <dd className="border-t border-line pt-1 mt-1 text-right font-semibold">{quote.total === null ? 'no end' : money(quote.total)}</dd>
          </>
        ) : null}
      </dl>
      {quote.dueToday > 0 || quote.later.length > 0 ? (
        <p className="text-soft mt-2">{includesTax ? 'Tax included.' : `With ${money(quote.tax)} tax at home today.`}</p>
      ) : null}
    </aside>
  );
}
