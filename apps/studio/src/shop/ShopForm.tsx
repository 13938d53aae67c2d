import { zodResolver } from '@hookform/resolvers/zod';
import type { ShopView } from '@ruta/core/pricing';
import { allCountries, type Shop, ShopSchema } from '@ruta/core/shop';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { useKeptDraft } from '../base/keptDraft';
import { Button } from '../ui/Button';
import { DraftNotice } from '../ui/DraftNotice';
import { Check, SelectField, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { OwnCodeFields } from '../ui/OwnCodeFields';
import { Panel } from '../ui/Page';
import { SaveBar } from '../ui/SaveBar';
import { shopApi } from './api';
import { consequencesOf } from './consequences';

/** The shop's own settings. What changes every live total at once is asked about first. */
export function ShopForm({ shop, onUnsaved }: { shop: ShopView; onUnsaved: (unsaved: boolean) => void }) {
  const { settings } = shop;
  const [save, { error, isSuccess }] = shopApi.useSaveShopMutation();
  const [asking, setAsking] = useState<{ values: Shop; consequences: string[] } | null>(null);
  const form = useForm<Shop>({ defaultValues: { whenRegisterSilent: 'charge', ...settings }, resolver: zodResolver(ShopSchema) });
  const { register, handleSubmit, reset, watch, setValue, formState } = form;
  const { begun, setBegun, isBack, startOver } = useKeptDraft('settings', form, shop.revisions.settings, formState.isDirty);
  const wrong = formState.errors;
  const unsaved = formState.isDirty && !formState.isSubmitting;
  useEffect(() => onUnsaved(unsaved), [unsaved, onUnsaved]);

  async function send(values: Shop) {
    setAsking(null);
    const { currency: _currency, mode: _mode, ...value } = values;
    const saved = await save({ begun, value })
      .unwrap()
      .catch(() => null);
    if (!saved) return;
    setBegun(saved.revisions.settings);
    reset(values);
  }

  return (
    <Panel title="Shop">
      <DraftNotice shown={isBack} onStartOver={startOver} />
      <form
        noValidate
        className="grid gap-4"
        onSubmit={handleSubmit(async (values) => {
          const consequences = consequencesOf(shop, values);
          if (consequences.length > 0) setAsking({ values, consequences });
          else await send(values);
        })}
      >
        <TextField label="Shop name" error={wrong.name?.message} {...register('name')} />
        <TextField
          label="E-mail for buyers"
          type="email"
          hint="Receipts come from it and answers go to it. Notices of sales reach you there too."
          error={wrong.contactEmail?.message}
          {...register('contactEmail')}
        />
        <div className="grid sm:grid-cols-2 gap-4">
          <SelectField label="Country" error={wrong.country?.message} {...register('country')}>
            {allCountries().map((country) => (
              <option key={country.code} value={country.code}>
                {country.name}
              </option>
            ))}
          </SelectField>
          <SelectField label="Time zone" error={wrong.timeZone?.message} {...register('timeZone')}>
            {Intl.supportedValuesOf('timeZone').map((zone) => (
              <option key={zone}>{zone}</option>
            ))}
          </SelectField>
        </div>
        <p className="text-soft">All prices are in {settings.currency}.</p>
        <Check label="Prices include tax" {...register('pricesIncludeTax')} />
        <Check
          label="I sell to businesses, too"
          hint="Order forms ask for a business tax number, and take tax off where reverse charge applies."
          {...register('sellsToBusinesses')}
        />
        {watch('sellsToBusinesses') ? (
          <SelectField
            label="While the register of tax numbers does not answer"
            hint="Reverse charge asks the register first, and its answer is kept with the order."
            {...register('whenRegisterSilent')}
          >
            <option value="charge">Charge tax</option>
            <option value="accept">Take the number as it is, and ask again until it answers</option>
          </SelectField>
        ) : null}
        <details open={settings.code !== undefined || undefined}>
          <summary className="font-semibold cursor-pointer">Code of your own on every page of the shop</summary>
          <div className="mt-3">
            <OwnCodeFields code={watch('code')} where="On every public page of the shop." onChange={(code) => setValue('code', code, { shouldDirty: true })} />
          </div>
        </details>
        <SaveBar label="Save" busy={formState.isSubmitting} saved={isSuccess && !formState.isDirty} error={error} />
      </form>
      {asking ? (
        <Modal open onClose={() => setAsking(null)} title="This changes what buyers pay at once">
          <ul className="grid gap-2 mb-4 list-disc pl-5">
            {asking.consequences.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
          <div className="flex gap-3">
            <Button look="main" onClick={() => setAsking(null)}>
              Leave it as it is
            </Button>
            <Button look="danger" onClick={() => void send(asking.values)}>
              Change it for everybody
            </Button>
          </div>
        </Modal>
      ) : null}
    </Panel>
  );
}
