import type { ShopView } from '@ruta/core/pricing';
import { TAX_RATES_EU, unionCountries } from '@ruta/core/pricing';
import { allCountries, countryName } from '@ruta/core/shop';
import { Plus, Trash2, X } from 'lucide-react';
import { type Control, get, type UseFormReturn, useFieldArray, useForm } from 'react-hook-form';
import { forgetDraft, useKeptDraft } from '../base/keptDraft';
import { Button, IconButton } from '../ui/Button';
import { DraftNotice } from '../ui/DraftNotice';
import { SelectField, TextField } from '../ui/Field';
import { LeaveGuard } from '../ui/LeaveGuard';
import { Empty, Page, Panel, Waiting } from '../ui/Page';
import { SaveBar } from '../ui/SaveBar';
import { shopApi } from './api';
import { readZones, toZones, type ZoneDraft } from './shippingDraft';

const EU = unionCountries(TAX_RATES_EU, 'EU');
const NEW_ZONE: ZoneDraft = { name: '', countries: [], region: '', kind: 'flat', amount: '', bands: [{ upTo: '', amount: '' }], freeFrom: '' };

interface Draft {
  zones: ZoneDraft[];
}

/** Where parcels go and what that costs: by zone, flat, by weight or by order value. */
export function ShippingPage() {
  const { data: shop, error, refetch } = shopApi.useShopQuery();
  if (!shop) return <Waiting error={error} retry={refetch} />;
  return <Zones shop={shop} />;
}

function Zones({ shop }: { shop: ShopView }) {
  const { currency } = shop.settings;
  const [save, { error, isSuccess, reset: forget }] = shopApi.useSaveShippingTableMutation();
  const form = useForm<Draft>({ defaultValues: { zones: toZones(shop.shippingTable, currency) } });
  const { control, handleSubmit, setError, formState, reset } = form;
  const { begun, setBegun, isBack, startOver } = useKeptDraft('shipping', form, shop.revisions.shippingTable, formState.isDirty);
  const { fields, append, remove } = useFieldArray({ control, name: 'zones' });

  async function saveZones({ zones }: Draft) {
    const read = readZones(zones, currency);
    if ('errors' in read) {
      for (const [path, message] of Object.entries(read.errors)) setError(path as 'zones.0.name', { message }, { shouldFocus: true });
      return;
    }
    const saved = await save({ begun, value: read.table })
      .unwrap()
      .catch(() => null);
    if (!saved) return;
    setBegun(saved.revisions.shippingTable);
    reset({ zones });
  }

  const add = (
    <Button onClick={() => append(NEW_ZONE)}>
      <Plus size={16} aria-hidden="true" /> Add a zone
    </Button>
  );
  return (
    <Page title="Shipping" narrow>
      <p className="text-soft mb-4">
        Only physical products are sent. Buyers see just the countries that a zone names; a region of a country comes before the country. Rates are{' '}
        {shop.settings.pricesIncludeTax ? 'with tax, as your prices' : 'without tax, as your prices'}.
      </p>
      <DraftNotice shown={isBack} onStartOver={startOver} />
      <form noValidate onSubmit={handleSubmit(saveZones)} onChange={() => isSuccess && forget()}>
        {fields.length === 0 ? (
          <Empty title="Nothing is sent anywhere yet" action={add}>
            A zone is one or more countries with one rate. Start with your own country.
          </Empty>
        ) : null}
        {fields.map((zone, index) => (
          <Zone key={zone.id} index={index} form={form} currency={currency} onRemove={() => remove(index)} />
        ))}
        <div className="grid gap-3 mt-3 mb-8">
          <SaveBar label="Save shipping" busy={formState.isSubmitting} saved={isSuccess} error={error}>
            {fields.length > 0 ? add : null}
          </SaveBar>
        </div>
      </form>
      <LeaveGuard active={formState.isDirty && !formState.isSubmitting} onLeave={() => forgetDraft('shipping')} />
    </Page>
  );
}

function Zone({ index, form, currency, onRemove }: { index: number; form: UseFormReturn<Draft>; currency: string; onRemove: () => void }) {
  const { register, watch, setValue, formState, control } = form;
  const [kind, countries, all] = watch([`zones.${index}.kind`, `zones.${index}.countries`, 'zones']);
  const field = (name: string) => ({
    ...register(`zones.${index}.${name}` as 'zones.0.name'),
    error: (get(formState.errors, `zones.${index}.${name}`) as { message?: string } | undefined)?.message,
  });
  const set = (next: string[]) => setValue(`zones.${index}.countries`, next, { shouldDirty: true });
  const taken = new Set(all.flatMap((zone) => (zone.region ? [] : zone.countries)));
  const offered = allCountries().filter((country) => !countries.includes(country.code));
  const wrong = field('countries').error;
  return (
    <Panel>
      <div className="grid gap-4">
        <div className="flex gap-3 items-start">
          <div className="flex-1">
            <TextField label={`Zone ${index + 1}`} hint="For example “European Union”." maxLength={80} {...field('name')} />
          </div>
          <IconButton name={`Remove zone ${index + 1}`} className="mt-7" onClick={onRemove}>
            <Trash2 size={16} />
          </IconButton>
        </div>
        <div>
          <p className="font-semibold mb-1">Countries</p>
          <ul className="flex flex-wrap gap-1.5 mb-2">
            {countries.map((code) => (
              <li key={code} className="inline-flex items-center rounded-full bg-band pl-3 text-[0.94rem]">
                {countryName(code)}
                <button
                  type="button"
                  aria-label={`Take out ${countryName(code)}`}
                  className="grid place-items-center size-7"
                  onClick={() => set(countries.filter((other) => other !== code))}
                >
                  <X size={13} />
                </button>
              </li>
            ))}
          </ul>
          <div className="flex flex-wrap gap-2">
            <select
              aria-label={`Add a country to zone ${index + 1}`}
              className="rounded-md border border-[#98a5a1] bg-white px-2.5 min-h-9 max-w-52"
              value=""
              onChange={(event) => event.target.value && set([...countries, event.target.value])}
            >
              <option value="">Add a country</option>
              {offered.map((country) => (
                <option key={country.code} value={country.code}>
                  {country.name}
                </option>
              ))}
            </select>
            <Button onClick={() => set([...new Set([...countries, ...EU.filter((code) => !taken.has(code))])])}>Add the European Union</Button>
            <Button onClick={() => set([...new Set([...countries, ...offered.map((country) => country.code).filter((code) => !taken.has(code))])])}>
              Add all that are left
            </Button>
          </div>
          {wrong ? (
            <p role="alert" className="mt-1 text-stop font-semibold">
              {wrong}
            </p>
          ) : null}
        </div>
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <SelectField label="Rate" {...field('kind')}>
            <option value="flat">the same for every order</option>
            <option value="weight">by weight</option>
            <option value="value">by order value</option>
          </SelectField>
          {kind === 'flat' ? <TextField label={`Amount in ${currency}`} inputMode="decimal" {...field('amount')} /> : null}
          <TextField label={`Free from, in ${currency}`} hint="Empty: never." inputMode="decimal" {...field('freeFrom')} />
          <TextField label="Only this region" hint="Empty: the whole country." maxLength={40} {...field('region')} />
        </div>
        {kind === 'flat' ? null : <Bands control={control} index={index} field={field} kind={kind} currency={currency} />}
      </div>
    </Panel>
  );
}

function Bands(props: {
  control: Control<Draft>;
  index: number;
  field: (name: string) => ReturnType<UseFormReturn<Draft>['register']> & { error: string | undefined };
  kind: 'weight' | 'value';
  currency: string;
}) {
  const { fields, append, remove } = useFieldArray({ control: props.control, name: `zones.${props.index}.bands` });
  return (
    <div className="grid gap-2">
      {fields.map((band, at) => (
        <div key={band.id} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_2rem] gap-3 items-start">
          <TextField
            label={`${props.kind === 'weight' ? 'Up to, in grams' : `Under, in ${props.currency}`}`}
            hint={at === fields.length - 1 ? 'Empty: any more than that.' : undefined}
            inputMode="decimal"
            {...props.field(`bands.${at}.upTo`)}
          />
          <TextField label={`Costs in ${props.currency}`} inputMode="decimal" {...props.field(`bands.${at}.amount`)} />
          <IconButton name={`Remove band ${at + 1}`} className="mt-7" disabled={fields.length === 1} onClick={() => remove(at)}>
            <Trash2 size={16} />
          </IconButton>
        </div>
      ))}
      <div>
        <Button look="quiet" onClick={() => append({ upTo: '', amount: '' })}>
          <Plus size={16} aria-hidden="true" /> Add a band
        </Button>
      </div>
    </div>
  );
}
