import { zodResolver } from '@hookform/resolvers/zod';
import { allCountries, type Shop, ShopSchema } from '@ruta/core/shop';
import { useForm } from 'react-hook-form';
import { Check, SelectField, TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import { SaveBar } from '../ui/SaveBar';
import { shopApi } from './api';

export function ShopForm({ settings }: { settings: Shop }) {
  const [save, { error, isSuccess }] = shopApi.useSaveShopMutation();
  const { register, handleSubmit, formState } = useForm<Shop>({ defaultValues: settings, resolver: zodResolver(ShopSchema) });
  const wrong = formState.errors;
  return (
    <Panel title="Shop">
      <form
        noValidate
        className="grid gap-4"
        onSubmit={handleSubmit(({ currency: _currency, ...rest }) =>
          save(rest)
            .unwrap()
            .catch(() => undefined),
        )}
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
        <SelectField
          label="Test or live"
          hint="In test mode no money moves and orders are left out of every figure."
          error={wrong.mode?.message}
          {...register('mode')}
        >
          <option value="live">Live</option>
          <option value="test">Test</option>
        </SelectField>
        <SaveBar label="Save" busy={formState.isSubmitting} saved={isSuccess} error={error} />
      </form>
    </Panel>
  );
}
