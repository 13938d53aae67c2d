import type { ElementOf } from '@ruta/core/elements';
import { isRegionTyped } from '@ruta/core/shop';
import { type CheckoutView, usePage } from '../context';
import { Field, TextField } from './Field';

/** Who buys, and where to: an address only if something is sent. */
export function OrderBuyer({ element, checkout, step }: { element: ElementOf<'order-form'>; checkout: CheckoutView | null; step: number }) {
  const { context } = usePage();
  const values = checkout?.values ?? {};
  const errors = checkout?.errors ?? {};
  const options = checkout?.sentOptions ?? [];
  const ticks = checkout?.sentBumps ?? [];
  const sends = [...options, ...ticks];
  const maySend = sends.length > 0;
  // Where only some options or bumps are shipped, the script shows the address with those; without it, it can be left out.
  const always = options.length > 0 && options.length === checkout?.options.length;
  const isHidden = maySend && !always && !options.includes(values.option ?? '') && !ticks.some((name) => values[name]);
  // Where the tables tell regions apart they are chosen; elsewhere the post may need one all the same.
  const postal = (checkout?.countries ?? []).flatMap(({ code }) =>
    isRegionTyped(code, checkout?.regions.find(({ country }) => country === code)?.regions ?? []) ? [code] : [],
  );
  const asksRegion = maySend && !isHidden && postal.includes(values.country ?? '');
  const text = (name: string, label: string, autoComplete: string, required = true, maxLength = 80) => (
    <TextField
      id={name}
      name={name}
      label={label}
      error={errors[name]}
      defaultValue={values[name]}
      required={required}
      maxLength={maxLength}
      autoComplete={autoComplete}
    />
  );
  return (
    <fieldset>
      <legend>
        <span className="step-number">{step}</span> You
      </legend>
      <div className="form-fields">
        {text('firstName', 'First name', 'given-name')}
        {element.askLastName || always ? text('lastName', 'Last name', 'family-name') : null}
        <TextField
          id="email"
          name="email"
          type="email"
          label="E-mail"
          error={errors.email}
          defaultValue={values.email}
          required
          maxLength={254}
          autoComplete="email"
        />
        {maySend ? (
          <div className="form-fields" data-sends={always ? undefined : sends.join(' ')} hidden={isHidden}>
            {element.askLastName || always ? null : text('lastName', 'Last name', 'family-name', false)}
            {text('street', 'Street and number', 'street-address', always, 120)}
            {text('postcode', 'Postcode', 'postal-code', always, 20)}
            {text('city', 'Town', 'address-level2', always)}
          </div>
        ) : null}
        {element.askCountry || maySend ? (
          <Field id="country" label="Country" error={errors.country} required>
            {(own) => (
              <select {...own} name="country" defaultValue={values.country} autoComplete="country" required>
                {checkout?.countries.map((country) => (
                  <option key={country.code} value={country.code}>
                    {country.name}
                  </option>
                ))}
              </select>
            )}
          </Field>
        ) : null}
        {element.askCountry || maySend
          ? checkout?.regions.map(({ country, name, regions }) => (
              <div key={country} data-regions={country} hidden={country !== values.country}>
                <Field id={`region-${country}`} label={`Region of ${name}`} error={country === values.country ? errors.region : undefined} required={false}>
                  {(own) => (
                    <select {...own} name="region" defaultValue={values.region} disabled={country !== values.country} autoComplete="address-level1">
                      <option value="">Elsewhere in {name}</option>
                      {regions.map((region) => (
                        <option key={region}>{region}</option>
                      ))}
                    </select>
                  )}
                </Field>
              </div>
            ))
          : null}
        {maySend && postal.length > 0 ? (
          <div data-postal={postal.join(' ')} data-always={always ? '' : undefined} hidden={!asksRegion}>
            <Field id="region" label="State or region" error={asksRegion ? errors.region : undefined} required={asksRegion}>
              {(own) => (
                <input
                  {...own}
                  name="region"
                  defaultValue={asksRegion ? values.region : ''}
                  disabled={!asksRegion}
                  required={asksRegion}
                  maxLength={80}
                  autoComplete="address-level1"
                />
              )}
            </Field>
          </div>
        ) : null}
        {(element.askTaxNumber ?? context.asksTaxNumber) ? text('taxNumber', 'Business tax number', 'off', false, 30) : null}
      </div>
    </fieldset>
  );
}
