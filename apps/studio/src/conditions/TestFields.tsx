import type { FactTest } from '@ruta/core/facts';
import { allCountries } from '@ruta/core/shop';
import { type ComponentType, useState } from 'react';
import { catalogApi } from '../catalog/api';
import { ProductChooser } from '../catalog/ProductChooser';
import { StepChooser } from '../funnel/StepChooser';
import { AmountField } from '../ui/AmountField';
import { SelectField, TextField } from '../ui/Field';
import type { FactName } from './newTest';

type Of<Fact extends FactName> = Extract<FactTest, { fact: Fact }>;

interface TestProps<Test extends FactTest> {
  test: Test;
  // As a method, so that fields which serve two questions serve each of them.
  change(test: Test): void;
  currency: string;
}

const ROLES = { main: 'as the main thing', bump: 'as a bump', upsell: 'as an upsell', downsell: 'as a downsell' } as const;

function Purchase({ test, change }: TestProps<Of<'bought'> | Of<'owned'>>) {
  const { what } = test;
  const [productId, setProductId] = useState('productId' in what ? what.productId : '');
  const { data: product } = catalogApi.useProductQuery(productId, { skip: productId === '' });
  const editions = product?.editions ?? [];
  const set = (next: (typeof test)['what']) => change({ ...test, what: next });
  const exact = what.by === 'edition' ? what.editionId : what.by === 'price' ? what.priceId : '';
  return (
    <>
      <SelectField
        label="What"
        value={what.by === 'category' || what.by === 'tag' ? what.by : 'product'}
        onChange={(event) =>
          set(
            event.target.value === 'category'
              ? { by: 'category', category: '' }
              : event.target.value === 'tag'
                ? { by: 'tag', tag: '' }
                : { by: 'product', productId },
          )
        }
      >
        <option value="product">a product</option>
        <option value="category">anything in a category</option>
        <option value="tag">anything with a tag</option>
      </SelectField>
      {what.by === 'category' ? (
        <TextField label="Category" value={what.category} onChange={(event) => set({ by: 'category', category: event.target.value })} />
      ) : what.by === 'tag' ? (
        <TextField label="Tag" value={what.tag} onChange={(event) => set({ by: 'tag', tag: event.target.value })} />
      ) : (
        <>
          <ProductChooser
            label="Product"
            value={productId}
            {...(exact && productId === '' ? { hint: 'An edition or a price of it was chosen. Choose the product to see which.' } : {})}
            onChange={(id) => {
              setProductId(id);
              set({ by: 'product', productId: id });
            }}
          />
          {editions.some((edition) => edition.prices.length > 1) || editions.length > 1 ? (
            <SelectField
              label="Exactly"
              value={exact}
              onChange={(event) => {
                const id = event.target.value;
                set(id === '' ? { by: 'product', productId } : id.startsWith('edn_') ? { by: 'edition', editionId: id } : { by: 'price', priceId: id });
              }}
            >
              <option value="">in whatever edition, at whatever price</option>
              {editions.map((edition) => (
                <optgroup key={edition.id} label={edition.name || (product?.name ?? '')}>
                  {editions.length > 1 ? <option value={edition.id}>the edition {edition.name}</option> : null}
                  {edition.prices.map((price) => (
                    <option key={price.id} value={price.id}>
                      the price {price.name || edition.name || product?.name}
                    </option>
                  ))}
                </optgroup>
              ))}
            </SelectField>
          ) : null}
        </>
      )}
      <SelectField
        label="How"
        value={test.role ?? ''}
        onChange={(event) => {
          const { role: _role, ...rest } = test;
          change((event.target.value ? { ...rest, role: event.target.value } : rest) as typeof test);
        }}
      >
        <option value="">however it was bought</option>
        {Object.entries(ROLES).map(([role, words]) => (
          <option key={role} value={role}>
            {words}
          </option>
        ))}
      </SelectField>
    </>
  );
}

function Countries({ test, change }: TestProps<Of<'country'> | Of<'shippingCountry'>>) {
  const all = allCountries();
  return (
    <>
      <SelectField label="Is" value={test.operator} onChange={(event) => change({ ...test, operator: event.target.value as 'one of' })}>
        <option value="one of">one of</option>
        <option value="none of">none of</option>
      </SelectField>
      <div>
        <p className="font-semibold mb-1">Countries</p>
        <div className="flex flex-wrap gap-1.5">
          {test.countries.map((code) => (
            <button
              key={code}
              type="button"
              aria-label={`Remove ${all.find((country) => country.code === code)?.name ?? code}`}
              className="rounded-md bg-experiment-tint text-experiment font-semibold px-2 py-1 disabled:opacity-60"
              disabled={test.countries.length === 1}
              onClick={() => change({ ...test, countries: test.countries.filter((each) => each !== code) })}
            >
              {all.find((country) => country.code === code)?.name ?? code} ×
            </button>
          ))}
          <select
            aria-label="Add a country"
            value=""
            className="rounded-md border border-line bg-white px-2 py-1 max-w-44"
            onChange={(event) => change({ ...test, countries: [...test.countries, event.target.value] })}
          >
            <option value="">Add a country</option>
            {all
              .filter((country) => !test.countries.includes(country.code))
              .map((country) => (
                <option key={country.code} value={country.code}>
                  {country.name}
                </option>
              ))}
          </select>
        </div>
      </div>
    </>
  );
}

function Came({ test, change }: TestProps<Of<'campaign'> | Of<'source'>>) {
  const value = test.fact === 'campaign' ? test.campaign : test.source;
  return (
    <>
      <SelectField label="Of" value={test.which} onChange={(event) => change({ ...test, which: event.target.value as 'first' })}>
        <option value="first">their first visit</option>
        <option value="last">their latest visit that had one</option>
      </SelectField>
      <TextField
        label={test.fact === 'campaign' ? 'utm_campaign' : 'utm_source'}
        value={value}
        onChange={(event) => change({ ...test, [test.fact]: event.target.value } as typeof test)}
      />
    </>
  );
}

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const HOURS = Array.from({ length: 24 }, (_, hour) => hour);

/** The fields of each question; the compiler names one that is missing. */
const FIELDS: { [Fact in FactName]: ComponentType<TestProps<Of<Fact>>> } = {
  bought: Purchase,
  owned: Purchase,
  declined: ({ test, change }) => (
    <StepChooser
      label="Offer"
      kinds={['offer']}
      none="any offer of this order"
      value={test.stepId ?? ''}
      onChange={(stepId) => change(stepId ? { fact: 'declined', stepId } : { fact: 'declined' })}
    />
  ),
  orderTotal: ({ test, change, currency }) => (
    <>
      <SelectField label="Is" value={test.operator} onChange={(event) => change({ ...test, operator: event.target.value as 'under' })}>
        <option value="at least">at least</option>
        <option value="under">under</option>
      </SelectField>
      <AmountField label={`Goods in ${currency}`} amount={test.amount} currency={currency} onAmount={(amount) => change({ ...test, amount })} />
    </>
  ),
  code: ({ test, change }) => (
    <TextField
      label="Code"
      hint="Empty: any code."
      value={test.code ?? ''}
      onChange={(event) => change(event.target.value ? { fact: 'code', code: event.target.value.toUpperCase() } : { fact: 'code' })}
    />
  ),
  paymentMethod: ({ test, change }) => (
    <SelectField label="Is" value={test.method} onChange={(event) => change({ ...test, method: event.target.value })}>
      <option value="card">card</option>
      {test.method === 'card' ? null : <option value={test.method}>{test.method}</option>}
    </SelectField>
  ),
  shippingMethod: ({ test, change }) => (
    <TextField
      label="Zone"
      hint="Empty: anything is sent."
      value={test.zone ?? ''}
      onChange={(event) => change(event.target.value ? { fact: 'shippingMethod', zone: event.target.value } : { fact: 'shippingMethod' })}
    />
  ),
  country: Countries,
  shippingCountry: Countries,
  tag: ({ test, change }) => <TextField label="Tag" value={test.tag} onChange={(event) => change({ ...test, tag: event.target.value })} />,
  answer: ({ test, change }) => (
    <>
      <TextField label="Question, as the form asks it" value={test.question} onChange={(event) => change({ ...test, question: event.target.value })} />
      <TextField label="Answer" value={test.answer} onChange={(event) => change({ ...test, answer: event.target.value })} />
    </>
  ),
  campaign: Came,
  source: Came,
  device: ({ test, change }) => (
    <SelectField label="Is" value={test.device} onChange={(event) => change({ ...test, device: event.target.value as 'phone' })}>
      <option value="phone">a phone</option>
      <option value="tablet">a tablet</option>
      <option value="desktop">a desktop</option>
    </SelectField>
  ),
  language: ({ test, change }) => (
    <TextField
      label="Language, two letters"
      maxLength={3}
      value={test.language}
      onChange={(event) => change({ ...test, language: event.target.value.toLowerCase() })}
    />
  ),
  returning: ({ test, change }) => (
    <SelectField label="Is" value={String(test.returning)} onChange={(event) => change({ ...test, returning: event.target.value === 'true' })}>
      <option value="true">came back</option>
      <option value="false">here for the first time</option>
    </SelectField>
  ),
  saw: ({ test, change }) => <StepChooser label="Page" value={test.stepId} onChange={(stepId) => change({ fact: 'saw', stepId })} />,
  openedCheckout: ({ test, change }) => (
    <SelectField label="Has" value={String(test.opened)} onChange={(event) => change({ ...test, opened: event.target.value === 'true' })}>
      <option value="true">opened the checkout</option>
      <option value="false">not opened the checkout</option>
    </SelectField>
  ),
  hour: ({ test, change }) => (
    <>
      {(['from', 'until'] as const).map((bound) => (
        <SelectField
          key={bound}
          label={bound === 'from' ? 'From' : 'Until'}
          value={test[bound]}
          onChange={(event) => change({ ...test, [bound]: Number(event.target.value) })}
        >
          {(bound === 'from' ? HOURS : HOURS.map((hour) => hour + 1)).map((hour) => (
            <option key={hour} value={hour}>
              {hour}:00
            </option>
          ))}
        </SelectField>
      ))}
    </>
  ),
  weekday: ({ test, change }) => (
    <fieldset className="flex flex-wrap gap-x-3 gap-y-1 items-center">
      <legend className="font-semibold mb-1">Days</legend>
      {DAYS.map((name, index) => {
        const day = index + 1;
        const has = test.days.includes(day);
        return (
          <label key={name} className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={has}
              onChange={() => change({ ...test, days: has ? test.days.filter((each) => each !== day) : [...test.days, day].sort() })}
              className="accent-go"
            />
            {name}
          </label>
        );
      })}
    </fieldset>
  ),
  date: ({ test, change }) => (
    <>
      {(['from', 'until'] as const).map((bound) => (
        <TextField
          key={bound}
          label={bound === 'from' ? 'From' : 'Until, included'}
          type="date"
          value={test[bound] ?? ''}
          onChange={(event) => {
            const { [bound]: _before, ...rest } = test;
            change((event.target.value ? { ...rest, [bound]: event.target.value } : rest) as typeof test);
          }}
        />
      ))}
    </>
  ),
};

/** The fields of one question. */
export function TestFields({ test, change, currency }: { test: FactTest; change: (test: FactTest) => void; currency: string }) {
  const Fields = FIELDS[test.fact] as ComponentType<{ test: FactTest; change: (test: FactTest) => void; currency: string }>;
  return <Fields test={test} change={change} currency={currency} />;
}
