import type { CheckoutOption, CheckoutView } from '../context';
import { TextField } from './Field';

/** What exactly is bought: edition and price, an amount of one's own where the seller lets people choose, quantity. */
export function OrderChoice({ checkout, asksQuantity, step }: { checkout: CheckoutView; asksQuantity: boolean; step: number }) {
  const { options, values, errors } = checkout;
  const names = [...new Set(options.map((option) => option.edition))];
  // Where each edition has one price, the editions themselves are the choice.
  const oneEach = names.length === options.length;
  const editions = oneEach ? [''] : names;
  const chosen = options.find((option) => option.id === values.option) ?? options[0];
  return (
    <fieldset>
      <legend>
        <span className="step-number">{step}</span> Your choice
      </legend>
      {options.length > 1 ? (
        <div className="choices" data-field="option">
          {editions.map((edition) => (
            <div key={edition} className="choice-group">
              {edition && editions.length > 1 ? <p className="choice-edition">{edition}</p> : null}
              {options
                .filter((option) => oneEach || option.edition === edition)
                .map((option) => (
                  <OptionRow
                    key={option.id}
                    option={oneEach && option.edition ? { ...option, name: option.edition } : option}
                    isChosen={option.id === chosen?.id}
                  />
                ))}
            </div>
          ))}
          <p className="field-error" id="option-error">
            {errors.option}
          </p>
        </div>
      ) : (
        <input type="hidden" name="option" value={chosen?.id ?? ''} />
      )}
      <div className="form-fields">
        {options.some((option) => option.chooses) ? (
          <div data-chooses={options.flatMap((option) => (option.chooses ? [option.id] : [])).join(' ')} hidden={!chosen?.chooses}>
            <TextField
              id="chosen"
              name="chosen"
              label={`What would you like to pay? ${chosen?.chooses ?? options.find((option) => option.chooses)?.chooses ?? ''}`}
              error={errors.chosen}
              defaultValue={values.chosen}
              inputMode="decimal"
              maxLength={16}
              autoComplete="off"
              required
            />
          </div>
        ) : null}
        {asksQuantity ? (
          <TextField
            id="quantity"
            name="quantity"
            label="How many?"
            error={errors.quantity}
            defaultValue={values.quantity ?? '1'}
            inputMode="numeric"
            maxLength={4}
            required
          />
        ) : null}
      </div>
    </fieldset>
  );
}

function OptionRow({ option, isChosen }: { option: CheckoutOption; isChosen: boolean }) {
  const soldOut = option.left === 0;
  return (
    <label className={soldOut ? 'choice choice-gone' : 'choice'}>
      <input type="radio" name="option" value={option.id} defaultChecked={isChosen && !soldOut} disabled={soldOut} />
      <span className="choice-words">
        <strong>{option.name || option.price}</strong>
        {option.name ? <span>{option.price}</span> : null}
        {option.description ? <span className="text-small">{option.description}</span> : null}
        {option.left === null ? null : <span className="choice-left">{soldOut ? 'Sold out' : `Only ${option.left} left`}</span>}
      </span>
    </label>
  );
}
