import type { CodeRow } from '@ruta/core/codes';
import type { ShopView } from '@ruta/core/pricing';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { problemOf } from '../base/api';
import { ProductsChooser } from '../catalog/ProductsChooser';
import { Button } from '../ui/Button';
import { Check, FormProblem, SelectField, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { codesApi } from './api';
import { CodeLink } from './CodeLink';
import { type CodeDraft, codeFieldOf, readCodeDraft, toCodeDraft } from './codeDraft';

/** One discount code: what it takes off, from what, how long and how often. */
export function CodeDialog({ row, shop, onClose }: { row: CodeRow | null; shop: ShopView; onClose: () => void }) {
  const { settings } = shop;
  const [save] = codesApi.useSaveCodeMutation();
  const [archive] = codesApi.useArchiveCodeMutation();
  const [problem, setProblem] = useState<string | null>(null);
  // The state this window has begun from, whatever the list reads meanwhile.
  const [begun] = useState(row?.revision ?? null);
  const { register, handleSubmit, watch, setError, setValue, formState } = useForm<CodeDraft>({ defaultValues: toCodeDraft(row?.terms ?? null, settings) });
  const wrong = formState.errors;
  const [kind, scope, code, productIds] = watch(['kind', 'scope', 'code', 'productIds']);
  const say = (errors: Record<string, string>) => {
    for (const [name, message] of Object.entries(errors)) setError(name as 'code', { message }, { shouldFocus: true });
  };

  async function send(draft: CodeDraft) {
    setProblem(null);
    const read = readCodeDraft(draft, settings);
    if ('errors' in read) return say(read.errors);
    try {
      await save({ id: row?.id ?? null, terms: read.terms, begun }).unwrap();
      onClose();
    } catch (error) {
      const refusal = problemOf(error);
      say(Object.fromEntries(refusal.errors.map(({ path, message }) => [codeFieldOf(path), message])));
      if (refusal.errors.length === 0) setProblem(refusal.title);
    }
  }

  return (
    <Modal open onClose={onClose} title={row ? `Code ${row.terms.code}` : 'Add a code'} unsaved={formState.isDirty} wide>
      <form noValidate className="grid gap-4" onSubmit={handleSubmit(send)}>
        <div className="grid sm:grid-cols-3 gap-4 items-start">
          <TextField label="Code" hint="Capitals or not, it is the same." autoFocus={!row} maxLength={60} error={wrong.code?.message} {...register('code')} />
          <SelectField label="Takes off" {...register('kind')}>
            <option value="percent">a percentage</option>
            <option value="fixed">an amount</option>
          </SelectField>
          {kind === 'percent' ? (
            <TextField label="Percent" inputMode="decimal" error={wrong.percent?.message} {...register('percent')} />
          ) : (
            <TextField
              label={`Amount in ${settings.currency}`}
              hint={settings.pricesIncludeTax ? 'With tax, as your prices.' : 'Without tax, as your prices.'}
              inputMode="decimal"
              error={wrong.amount?.message}
              {...register('amount')}
            />
          )}
        </div>
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <SelectField label="Applies to" {...register('scope')}>
            <option value="order">the whole order, bumps and upsells too</option>
            <option value="main">the main product only</option>
            <option value="products">chosen products</option>
          </SelectField>
          <SelectField label="Which payments" hint="Never off set-up fees or shipping." {...register('payments')}>
            <option value="first">the first payment above 0</option>
            <option value="every">every payment</option>
          </SelectField>
        </div>
        {scope === 'products' ? (
          <fieldset>
            <legend className="font-semibold mb-1">Which products?</legend>
            <ProductsChooser ids={productIds} onChange={(ids) => setValue('productIds', ids, { shouldDirty: true })} />
            {wrong.productIds ? (
              <p role="alert" className="mt-1 text-stop font-semibold">
                {wrong.productIds.message}
              </p>
            ) : null}
          </fieldset>
        ) : null}
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <TextField
            label="Valid from"
            hint={`In the time of ${settings.timeZone}. Empty: now.`}
            type="datetime-local"
            error={wrong.from?.message}
            {...register('from')}
          />
          <TextField label="Until" hint="Empty: no end." type="datetime-local" error={wrong.until?.message} {...register('until')} />
        </div>
        <div className="grid sm:grid-cols-3 gap-4 items-start">
          <TextField
            label={`Minimum order, in ${settings.currency}`}
            hint="Of what it acts on, before the code. Empty: any."
            inputMode="decimal"
            error={wrong.minimum?.message}
            {...register('minimum')}
          />
          <TextField label="Uses in all" hint="Empty: without limit." inputMode="numeric" error={wrong.limit?.message} {...register('limit')} />
          <TextField
            label="Uses of one buyer"
            hint="Empty: without limit."
            inputMode="numeric"
            error={wrong.limitPerBuyer?.message}
            {...register('limitPerBuyer')}
          />
        </div>
        <Check label="Switched on" {...register('on')} />
        {code.trim() ? <CodeLink code={code.trim().toUpperCase()} /> : null}
        <FormProblem>{problem}</FormProblem>
        <div className="flex gap-3">
          <Button look="main" type="submit" disabled={formState.isSubmitting}>
            {row ? 'Save' : 'Add the code'}
          </Button>
          {row ? (
            <Button
              look="quiet"
              className="ml-auto"
              onClick={async () => {
                await archive(row.id)
                  .unwrap()
                  .then(onClose)
                  .catch((error) => setProblem(problemOf(error).title));
              }}
            >
              Archive
            </Button>
          ) : null}
        </div>
      </form>
    </Modal>
  );
}
