import { CurrencySchema } from '@ruta/core/money';
import { allCountries } from '@ruta/core/shop';
import { useForm } from 'react-hook-form';
import { Button } from '../ui/Button';
import { Check, FormProblem, SelectField, TextField } from '../ui/Field';
import { refusedAt, refusedWhole } from '../ui/fieldError';
import { teamApi } from './api';
import { Gate } from './Gate';

interface SetUpForm {
  code: string;
  name: string;
  email: string;
  password: string;
  shop: { name: string; country: string; currency: string; timeZone: string; pricesIncludeTax: boolean };
}

const currencies = Intl.supportedValuesOf('currency').filter((code) => CurrencySchema.safeParse(code).success);
// A computer's own zone may go by a name that is not in the list, such as UTC.
const timeZones = [...new Set([...Intl.supportedValuesOf('timeZone'), Intl.DateTimeFormat().resolvedOptions().timeZone])].sort();

/** The first visit to a new shop: who owns it, where it is, what it charges in. */
export function SetUp() {
  const [setUp, { error }] = teamApi.useSetUpMutation();
  const refused = (path: string) => refusedAt(error, path);
  const { register, handleSubmit, formState } = useForm<SetUpForm>({
    defaultValues: {
      // The link that is printed where Ruta is started brings it along.
      code: decodeURIComponent(/^#setup=(.*)$/.exec(location.hash)?.[1] ?? ''),
      shop: {
        country: navigator.language.split('-')[1] ?? 'PT',
        currency: 'EUR',
        timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
        pricesIncludeTax: true,
      },
    },
  });
  const wrong = formState.errors;
  return (
    <Gate title="Set up your shop">
      <form
        noValidate
        className="grid gap-4"
        onSubmit={handleSubmit((values) =>
          setUp(values)
            .unwrap()
            .catch(() => undefined),
        )}
      >
        <FormProblem>{refusedWhole(error)}</FormProblem>
        <TextField
          label="Set-up code"
          autoComplete="off"
          hint="With it nobody else takes your shop."
          error={wrong.code?.message ?? refused('code')}
          {...register('code', { required: 'Enter the set-up code that was printed where Ruta was started.' })}
        />
        <TextField
          label="Your name"
          autoComplete="name"
          error={wrong.name?.message ?? refused('name')}
          {...register('name', { required: 'Enter your name.' })}
        />
        <TextField
          label="E-mail"
          type="email"
          autoComplete="username"
          hint="You sign in with it, and buyers can write to it."
          error={wrong.email?.message ?? refused('email')}
          {...register('email', { required: 'Enter your e-mail address.' })}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="new-password"
          hint="At least 10 characters."
          error={wrong.password?.message ?? refused('password')}
          {...register('password', { required: 'Choose a password.', minLength: { value: 10, message: 'Use at least 10 characters.' } })}
        />
        <TextField
          label="Shop name"
          hint="Buyers see it on every page and receipt."
          error={wrong.shop?.name?.message ?? refused('shop.name')}
          {...register('shop.name', { required: 'Give the shop a name.' })}
        />
        <div className="grid grid-cols-2 gap-4">
          <SelectField label="Country" error={refused('shop.country')} {...register('shop.country')}>
            {allCountries().map((country) => (
              <option key={country.code} value={country.code}>
                {country.name}
              </option>
            ))}
          </SelectField>
          <SelectField label="Currency" hint="It cannot be changed later." error={refused('shop.currency')} {...register('shop.currency')}>
            {currencies.map((code) => (
              <option key={code}>{code}</option>
            ))}
          </SelectField>
        </div>
        <SelectField label="Time zone" error={refused('shop.timeZone')} {...register('shop.timeZone')}>
          {timeZones.map((zone) => (
            <option key={zone}>{zone}</option>
          ))}
        </SelectField>
        <Check label="My prices include tax" hint="Usual when you sell to consumers in Europe." {...register('shop.pricesIncludeTax')} />
        <Button look="main" type="submit" disabled={formState.isSubmitting}>
          Create the shop
        </Button>
      </form>
    </Gate>
  );
}
