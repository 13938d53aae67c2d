import { isAddition, type Product } from '@ruta/core/catalog';
import type { CodeRow } from '@ruta/core/codes';
import { parseMoney } from '@ruta/core/money';
import type { ShopView } from '@ruta/core/pricing';
import { boughtBy, cartLine, checkTaxNumber, type OfferDiscount, type Quote, type QuoteLineInput, quoteCart, regionsOf } from '@ruta/core/pricing';
import { allCountries, fromLocalTime, toLocalTime } from '@ruta/core/shop';
import { QuoteTable } from '@ruta/pages';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { newId } from '../base/newId';
import { catalogApi } from '../catalog/api';
import { AddProduct, useFirstProducts } from '../catalog/ProductChooser';
import { codesApi } from '../codes/api';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { SelectField, TextField } from '../ui/Field';
import { LaterPayments } from '../ui/LaterPayments';
import { Empty, Page, Panel, Waiting } from '../ui/Page';
import { CalculatorLine, type LineDraft } from './CalculatorLine';

/** What a buyer would pay for anything in the catalog, from anywhere, at any moment, with the whole sum unfolded. */
export function CalculatorPage() {
  const [params] = useSearchParams();
  const { rows, error, refetch } = useFirstProducts();
  const firstId = params.get('product') ?? rows?.[0]?.id;
  const { data: first } = catalogApi.useProductQuery(firstId ?? '', { skip: firstId === undefined });
  const { data: shop } = shopApi.useShopQuery();
  const codes = useRows(codesApi.useCodesInfiniteQuery({ limit: 200 }));
  if (rows?.length === 0) {
    return (
      <Page title="Calculator">
        <Empty title="Nothing to reckon with yet">Add a product first; then see here what buyers from anywhere would pay for it.</Empty>
      </Page>
    );
  }
  if (!first || !shop || !codes.rows) return <Waiting error={error} retry={refetch} />;
  return <Calculator first={first} shop={shop} codes={codes.rows} />;
}

interface BuyerDraft {
  country: string;
  region: string;
  taxNumber: string;
  code: string;
  at: string;
}

/** With the product's first price. */
const newLine = (productId: string, role: LineDraft['role']): LineDraft => ({
  id: newId('line'),
  productId,
  priceId: '',
  role,
  quantity: '1',
  chosen: '',
  discount: 'none',
  discountValue: '',
  base: 'current',
});

function Calculator({ first, shop, codes }: { first: Product; shop: ShopView; codes: CodeRow[] }) {
  const { settings } = shop;
  const [lines, setLines] = useState<LineDraft[]>([newLine(first.id, 'main')]);
  const wanted = [...new Set([first.id, ...lines.map((line) => line.productId)])].sort();
  const { currentData, data } = catalogApi.useProductsNamedQuery(wanted);
  const products = currentData ?? data ?? [first];
  const [buyer, setBuyer] = useState<BuyerDraft>({
    country: settings.country,
    region: '',
    taxNumber: '',
    code: '',
    at: toLocalTime(Date.now(), settings.timeZone),
  });
  const set = (change: Partial<BuyerDraft>) => setBuyer((now) => ({ ...now, ...change }));
  const regions = regionsOf(shop, buyer.country);
  const at = fromLocalTime(buyer.at, settings.timeZone);
  const reckoned = useMemo(() => reckon(products, lines, buyer, shop, codes, at ?? Date.now()), [products, lines, buyer, shop, codes, at]);
  const number = buyer.taxNumber.trim() ? checkTaxNumber(buyer.taxNumber) : null;
  return (
    <Page title="Calculator">
      <div className="grid lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)] gap-4 items-start">
        <div>
          <Panel title="What is bought?">
            {lines.map((line, index) => (
              <CalculatorLine
                key={line.id}
                line={line}
                products={products}
                currency={settings.currency}
                errors={reckoned.errors[line.id] ?? {}}
                onChange={(change) => setLines((now) => now.map((other) => (other.id === line.id ? { ...other, ...change } : other)))}
                onRemove={lines.length > 1 ? () => setLines((now) => now.filter((_, other) => other !== index)) : null}
              />
            ))}
            <AddProduct look="quiet" words="Add a line" onAdd={({ id }) => setLines((now) => [...now, newLine(id, 'bump')])} />
          </Panel>
          <Panel title="Who buys?">
            <div className="grid sm:grid-cols-2 gap-4 items-start">
              <SelectField label="Country" value={buyer.country} onChange={(event) => set({ country: event.target.value, region: '' })}>
                {allCountries().map((country) => (
                  <option key={country.code} value={country.code}>
                    {country.name}
                  </option>
                ))}
              </SelectField>
              {regions.length > 0 ? (
                <SelectField label="Region" value={buyer.region} onChange={(event) => set({ region: event.target.value })}>
                  <option value="">Elsewhere</option>
                  {regions.map((region) => (
                    <option key={region}>{region}</option>
                  ))}
                </SelectField>
              ) : null}
              <TextField
                label="Business tax number"
                value={buyer.taxNumber}
                onChange={(event) => set({ taxNumber: event.target.value })}
                error={number && !number.ok ? number.message : undefined}
                hint={number?.ok ? 'Format and check digits are right.' : 'Empty: not a business.'}
              />
              <SelectField
                label="Discount code"
                value={buyer.code}
                onChange={(event) => set({ code: event.target.value })}
                hint={reckoned.quote?.code && !reckoned.quote.code.applied ? reckoned.quote.code.reason : undefined}
              >
                <option value="">None</option>
                {codes.map((row) => (
                  <option key={row.id} value={row.id}>
                    {row.terms.code}
                  </option>
                ))}
              </SelectField>
              <TextField
                label="When"
                hint={`In the time of ${settings.timeZone}.`}
                type="datetime-local"
                value={buyer.at}
                onChange={(event) => set({ at: event.target.value })}
                error={at === null ? 'Choose a date and time.' : undefined}
              />
            </div>
          </Panel>
        </div>
        <div className="lg:sticky lg:top-4">
          {reckoned.quote ? <Sum quote={reckoned.quote} upsells={reckoned.upsells} /> : <Panel title="The sum">Complete the lines to see the sum.</Panel>}
        </div>
      </div>
    </Page>
  );
}

type Reckoned = { quote: Quote | null; upsells: Quote | null; errors: Record<string, Record<string, string>> };

/** Quotes the checkout, and then the upsells as a one-click addition to it. */
function reckon(products: Product[], drafts: LineDraft[], buyer: BuyerDraft, shop: ShopView, codes: CodeRow[], now: number): Reckoned {
  const { currency } = shop.settings;
  const errors: Reckoned['errors'] = {};
  const find = (id: string) => products.find((product) => product.id === id);
  const lines = drafts.flatMap((draft): QuoteLineInput[] => {
    const product = find(draft.productId);
    if (!product) return [];
    const wrong: Record<string, string> = {};
    const quantity = /^\d{1,4}$/.test(draft.quantity.trim()) ? Number(draft.quantity) : 0;
    if (quantity < 1) wrong.quantity = 'Enter how many.';
    const money = (name: 'chosen' | 'discountValue') => {
      const parsed = parseMoney(draft[name], currency);
      if (!parsed.ok) wrong[name] = parsed.message;
      return parsed.ok ? parsed.amount : undefined;
    };
    const chosen = draft.chosen.trim() ? money('chosen') : undefined;
    const discount = readDiscount(draft, wrong, money);
    errors[draft.id] = wrong;
    if (Object.keys(wrong).length > 0) return [];
    return [cartLine(draft.id, draft.role, product, { priceId: draft.priceId, quantity, chosen }, { find, discount })];
  });
  if (lines.length < drafts.length) return { quote: null, upsells: null, errors };
  const who = { country: buyer.country, ...(buyer.region ? { region: buyer.region } : {}), ...(buyer.taxNumber.trim() ? { taxNumber: buyer.taxNumber } : {}) };
  const code = codes.find((row) => row.id === buyer.code)?.terms;
  const [before, after] = [lines.filter((line) => !isAddition(line.role)), lines.filter((line) => isAddition(line.role))];
  const quote = before.length > 0 ? quoteCart(shop, { lines: before, buyer: who, code }, now) : null;
  const upsells = after.length > 0 ? quoteCart(shop, { lines: after, buyer: who, code, bought: quote ? boughtBy([quote]) : undefined }, now) : null;
  for (const problem of quote?.problems ?? []) {
    const at = /^lines\.(\d+)\.chosen$/.exec(problem.path);
    const line = at && before[Number(at[1])];
    if (line) errors[line.id] = { ...errors[line.id], chosen: problem.message };
  }
  return { quote: quote ?? upsells, upsells: quote ? upsells : null, errors };
}

function readDiscount(draft: LineDraft, wrong: Record<string, string>, money: (name: 'discountValue') => number | undefined): OfferDiscount | undefined {
  if (draft.discount === 'none') return undefined;
  if (draft.discount === 'amount') {
    const amount = money('discountValue');
    return amount === undefined ? undefined : { kind: 'amount', amount, base: draft.base };
  }
  const percent = Number(draft.discountValue.replace(',', '.'));
  if (!(percent > 0 && percent <= 100)) {
    wrong.discountValue = 'Enter a percentage up to 100.';
    return undefined;
  }
  return { kind: 'percent', percent, base: draft.base };
}

function Sum({ quote, upsells }: { quote: Quote; upsells: Quote | null }) {
  return (
    <>
      <Panel title="The sum">
        {quote.problems.map((problem) => (
          <p key={problem.path} role="alert" className="text-stop font-semibold mb-2">
            {problem.message}
          </p>
        ))}
        <div className="studio-quote">
          <QuoteTable quote={quote} dueLabel="Today" unfolded />
        </div>
        <LaterPayments payments={quote.later} currency={quote.currency} endless={quote.endless} total={quote.total} />
      </Panel>
      {upsells ? (
        <Panel title="Upsell, with one click afterwards">
          <div className="studio-quote">
            <QuoteTable quote={upsells} dueLabel="Then" unfolded />
          </div>
          <LaterPayments payments={upsells.later} currency={upsells.currency} endless={upsells.endless} total={upsells.total} />
        </Panel>
      ) : null}
    </>
  );
}
