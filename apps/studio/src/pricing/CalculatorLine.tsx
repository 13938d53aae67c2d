import { type LineRole, optionsOf, type Product, priceWords } from '@ruta/core/catalog';
import { chosenOption } from '@ruta/core/pricing';
import { Trash2 } from 'lucide-react';
import { ProductChooser } from '../catalog/ProductChooser';
import { IconButton } from '../ui/Button';
import { SelectField, TextField } from '../ui/Field';

/** A line of the calculator while it is chosen. */
export interface LineDraft {
  id: string;
  productId: string;
  priceId: string;
  role: LineRole;
  quantity: string;
  chosen: string;
  discount: 'none' | 'percent' | 'amount';
  discountValue: string;
  base: 'regular' | 'current';
}

export function CalculatorLine(props: {
  line: LineDraft;
  products: Product[];
  currency: string;
  errors: Record<string, string>;
  onChange: (change: Partial<LineDraft>) => void;
  onRemove: (() => void) | null;
}) {
  const { line, products, currency, errors, onChange } = props;
  const product = products.find((candidate) => candidate.id === line.productId);
  const option = product && chosenOption(product, line.priceId).option;
  return (
    <div className="border-b border-line pb-4 mb-4 grid gap-3">
      <div className="grid sm:grid-cols-[minmax(0,2fr)_minmax(0,3fr)_5rem_2rem] gap-3 items-start">
        <ProductChooser label="Product" value={line.productId} onChange={(productId) => onChange({ productId, priceId: '', chosen: '' })} />
        <SelectField label="Edition and price" value={option?.id ?? ''} onChange={(event) => onChange({ priceId: event.target.value })}>
          {(product ? optionsOf(product) : []).map((each) => (
            <option key={each.option.id} value={each.option.id}>
              {[product && product.editions.length > 1 ? each.edition.name : '', each.option.name, priceWords(each.option.price, currency, Date.now())]
                .filter(Boolean)
                .join(', ')}
            </option>
          ))}
        </SelectField>
        <TextField
          label="Quantity"
          inputMode="numeric"
          value={line.quantity}
          onChange={(event) => onChange({ quantity: event.target.value })}
          error={errors.quantity}
        />
        {props.onRemove ? (
          <IconButton name="Remove this line" className="mt-7" onClick={props.onRemove}>
            <Trash2 size={16} />
          </IconButton>
        ) : (
          <span />
        )}
      </div>
      <div className="grid sm:grid-cols-4 gap-3 items-start">
        <SelectField label="Bought as" value={line.role} onChange={(event) => onChange({ role: event.target.value as LineDraft['role'] })}>
          <option value="main">main product</option>
          <option value="bump">order bump</option>
          <option value="upsell">upsell</option>
          <option value="downsell">downsell</option>
        </SelectField>
        {option?.price.kind === 'pay-what-you-want' ? (
          <TextField
            label={`Chosen in ${currency}`}
            hint="Empty: as suggested."
            inputMode="decimal"
            value={line.chosen}
            onChange={(event) => onChange({ chosen: event.target.value })}
            error={errors.chosen}
          />
        ) : null}
        <SelectField label="Offer’s discount" value={line.discount} onChange={(event) => onChange({ discount: event.target.value as LineDraft['discount'] })}>
          <option value="none">none</option>
          <option value="percent">percent</option>
          <option value="amount">amount</option>
        </SelectField>
        {line.discount === 'none' ? null : (
          <>
            <TextField
              label={line.discount === 'percent' ? 'Percent' : `Amount in ${currency}`}
              inputMode="decimal"
              value={line.discountValue}
              onChange={(event) => onChange({ discountValue: event.target.value })}
              error={errors.discountValue}
            />
            <SelectField label="Off the" value={line.base} onChange={(event) => onChange({ base: event.target.value as LineDraft['base'] })}>
              <option value="current">current price</option>
              <option value="regular">regular price</option>
            </SelectField>
          </>
        )}
      </div>
    </div>
  );
}
