import { TAX_CLASS_NAMES } from '@ruta/core/catalog';
import { TAX_FILE_COLUMNS, taxTableFromCsv } from '@ruta/core/formats';
import type { ShopView } from '@ruta/core/pricing';
import { type TaxTable, TaxTableSchema } from '@ruta/core/pricing';
import { allCountries, fromLocalTime, toLocalTime } from '@ruta/core/shop';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { get, useFieldArray, useForm } from 'react-hook-form';
import { forgetDraft, useKeptDraft } from '../base/keptDraft';
import { Button, ButtonAnchor, IconButton } from '../ui/Button';
import { DraftNotice } from '../ui/DraftNotice';
import { ImportDialog } from '../ui/ImportDialog';
import { LeaveGuard } from '../ui/LeaveGuard';
import { Page, Waiting } from '../ui/Page';
import { SaveBar } from '../ui/SaveBar';
import { useCards } from '../ui/useCards';
import { shopApi } from './api';

/** The tax classes that have rates, in the order of the columns. */
const RATES = ['standard', 'reduced', 'digital'] as const;

interface RowDraft {
  country: string;
  region: string;
  union: boolean;
  from: string;
  until: string;
  /** The moments that the days stand for, kept to the minute while a day is not changed. */
  kept: { from?: number | undefined; until?: number | undefined };
  standard: string;
  reduced: string;
  digital: string;
}

/** Tax rates by country and date: those of the European Union ship with Ruta, others are entered or imported. */
export function TaxPage() {
  const { data: shop, error, refetch } = shopApi.useShopQuery();
  // Held here, so that what became of saving is still told once the saved table is shown anew.
  const saving = shopApi.useSaveTaxTableMutation();
  // Shown anew after its own saving only: another window’s must not take what is typed here.
  const [own, setOwn] = useState<ShopView | null>(null);
  const shown = own ?? shop;
  if (!shown) return <Waiting error={error} retry={refetch} />;
  return <TaxRates key={own?.revisions.taxTable ?? 'first'} shop={shown} saving={saving} onSaved={setOwn} />;
}

function TaxRates(props: { shop: ShopView; saving: ReturnType<typeof shopApi.useSaveTaxTableMutation>; onSaved: (shop: ShopView) => void }) {
  const { saving, onSaved } = props;
  // The table that this window began with, whatever is read of it meanwhile.
  const [shop] = useState(props.shop);
  const { timeZone } = shop.settings;
  const [save, { error, isSuccess, reset: forget }] = saving;
  const [importing, setImporting] = useState(false);
  const form = useForm<{ rows: RowDraft[] }>({ defaultValues: { rows: toRows(shop.taxTable, timeZone) } });
  const { control, register, handleSubmit, setError, formState } = form;
  const { begun, isBack, startOver } = useKeptDraft('tax', form, shop.revisions.taxTable, formState.isDirty);
  const { fields, append, remove } = useFieldArray({ control, name: 'rows' });
  const countries = allCountries();

  async function saveRates({ rows }: { rows: RowDraft[] }) {
    const read = readRows(rows, timeZone);
    if ('errors' in read) {
      for (const [path, message] of Object.entries(read.errors)) setError(path as 'rows.0.country', { message }, { shouldFocus: true });
      return;
    }
    await save({ begun, value: read.table })
      .unwrap()
      .then((saved) => {
        forgetDraft('tax');
        onSaved(saved);
      })
      .catch(() => undefined);
  }

  const cards = useCards();
  const cell = (index: number, name: Exclude<keyof RowDraft, 'kept' | 'union'>, label: string, width: string, type = 'text') => {
    const path = `rows.${index}.${name}` as const;
    const wrong = (get(formState.errors, path) as { message?: string } | undefined)?.message;
    return (
      <td key={name} {...cards.cell(label)} className="px-1 py-1 align-top">
        <input
          aria-label={`${label}, row ${index + 1}`}
          aria-invalid={wrong ? true : undefined}
          type={type}
          inputMode={RATES.some((rate) => rate === name) ? 'decimal' : undefined}
          className={`${width} rounded-md border bg-white px-2 min-h-8.5 ${wrong ? 'border-stop border-2' : 'border-line'}`}
          {...register(path)}
        />
        {wrong ? (
          <span role="alert" className="block max-w-56 text-stop font-semibold text-[0.9rem]">
            {wrong}
          </span>
        ) : null}
      </td>
    );
  };
  return (
    <Page
      title="Tax rates"
      actions={
        <>
          <Button onClick={() => setImporting(true)}>Import CSV</Button>
          <ButtonAnchor href="/api/shop/tax-table/export" download>
            Export CSV
          </ButtonAnchor>
        </>
      }
    >
      <p className="text-soft mb-4 max-w-3xl">
        Buyers pay the rate of the country things go to; where there is no row, the rate is 0. A row of a region comes before its country’s. To change a rate
        from a day on, add a row with that day: the earlier one ends by itself. Look the rates over with your accountant.
      </p>
      <DraftNotice shown={isBack} onStartOver={startOver} />
      <form noValidate onSubmit={handleSubmit(saveRates)} onChange={() => isSuccess && forget()}>
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard */}
        <section tabIndex={0} aria-label="Rates" className="sm:max-h-[calc(100vh-290px)] overflow-auto rounded-md border border-line bg-white">
          <table {...cards.table} className="w-full border-collapse">
            <thead {...cards.group} className="sticky top-0 bg-white z-10">
              <tr {...cards.row} className="text-left text-soft">
                {['Country', 'Region', 'EU', ...RATES.map((rate) => `${TAX_CLASS_NAMES[rate]} %`), 'From', 'Until'].map((name) => (
                  <th key={name} scope="col" {...cards.header} className="px-2 py-2 border-b border-line font-semibold whitespace-nowrap">
                    {name}
                  </th>
                ))}
                <th {...cards.header} className="border-b border-line">
                  <span className="sr-only">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody {...cards.group}>
              {fields.map((row, index) => (
                <tr key={row.id} {...cards.row} className="border-t border-line sm:border-t-0">
                  <td {...cards.cell('Country')} className="px-1 py-1 align-top">
                    <select
                      aria-label={`Country, row ${index + 1}`}
                      className="w-44 rounded-md border border-line bg-white px-2 min-h-8.5"
                      {...register(`rows.${index}.country`)}
                    >
                      {countries.map((country) => (
                        <option key={country.code} value={country.code}>
                          {country.name}
                        </option>
                      ))}
                    </select>
                  </td>
                  {cell(index, 'region', 'Region', 'w-28')}
                  <td {...cards.cell('EU')} className="px-2 py-1 align-top">
                    <input
                      type="checkbox"
                      aria-label={`Member of the European Union, row ${index + 1}`}
                      className="mt-2 size-4.5 accent-go"
                      {...register(`rows.${index}.union`)}
                    />
                  </td>
                  {RATES.map((rate) => cell(index, rate, `${TAX_CLASS_NAMES[rate]} rate`, 'w-20 text-right'))}
                  {cell(index, 'from', 'From', 'w-36', 'date')}
                  {cell(index, 'until', 'Until', 'w-36', 'date')}
                  <td {...cards.cell('')} className="px-1 py-1 align-top">
                    <IconButton name={`Remove row ${index + 1}`} onClick={() => remove(index)}>
                      <Trash2 size={16} />
                    </IconButton>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <div className="grid gap-3 mt-3 mb-8">
          <SaveBar label="Save the rates" busy={formState.isSubmitting} saved={isSuccess} error={error}>
            <Button
              onClick={() =>
                append({ country: shop.settings.country, region: '', union: false, from: '', until: '', kept: {}, standard: '', reduced: '', digital: '' })
              }
            >
              <Plus size={16} aria-hidden="true" /> Add a row
            </Button>
          </SaveBar>
        </div>
      </form>
      <LeaveGuard active={formState.isDirty && !formState.isSubmitting} onLeave={() => forgetDraft('tax')} />
      <ImportDialog
        open={importing}
        onClose={() => setImporting(false)}
        title="Import tax rates"
        accept=".csv,text/csv"
        columns={TAX_FILE_COLUMNS}
        things="rows"
        isLocal
        more={<p className="mt-3 text-soft">The file takes the place of the whole table.</p>}
        run={async (_name, text, apply) => {
          const { items, problems } = taxTableFromCsv(text, shop.settings);
          if (apply && problems.length === 0) onSaved(await save({ begun, value: items }).unwrap());
          return { added: items.length, changed: 0, problems, applied: apply && problems.length === 0 };
        }}
      />
    </Page>
  );
}

const dayOf = (at: number | undefined, timeZone: string) => (at === undefined ? '' : toLocalTime(at, timeZone).slice(0, 10));

function toRows(table: TaxTable, timeZone: string): RowDraft[] {
  return table.map((row) => ({
    country: row.country,
    region: row.region ?? '',
    union: row.union === 'EU',
    from: dayOf(row.from, timeZone),
    until: dayOf(row.until, timeZone),
    kept: { from: row.from, until: row.until },
    standard: String(row.standard),
    reduced: String(row.reduced),
    digital: String(row.digital),
  }));
}

function readRows(rows: RowDraft[], timeZone: string): { table: TaxTable } | { errors: Record<string, string> } {
  const errors: Record<string, string> = {};
  const table = rows.map((row, index) => {
    const rate = (name: 'standard' | 'reduced' | 'digital') => {
      const text = row[name].trim().replace(',', '.');
      if (/^\d{1,3}(\.\d{1,4})?$/.test(text)) return Number(text);
      errors[`rows.${index}.${name}`] = 'Enter a percentage.';
      return undefined;
    };
    const day = (name: 'from' | 'until') => {
      if (row[name] === '') return {};
      const kept = row.kept[name];
      return { [name]: dayOf(kept, timeZone) === row[name] ? kept : (fromLocalTime(row[name], timeZone) ?? undefined) };
    };
    return {
      country: row.country,
      ...(row.region.trim() ? { region: row.region.trim() } : {}),
      ...(row.union ? { union: 'EU' } : {}),
      ...day('from'),
      ...day('until'),
      standard: rate('standard'),
      reduced: rate('reduced'),
      digital: rate('digital'),
    };
  });
  const parsed = TaxTableSchema.safeParse(table);
  if (!parsed.success) for (const issue of parsed.error.issues) errors[`rows.${issue.path.join('.')}`] ??= issue.message;
  return parsed.success ? { table: parsed.data } : { errors };
}
