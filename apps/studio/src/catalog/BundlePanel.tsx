import { formatMoney } from '@ruta/core/money';
import { bundleParts } from '@ruta/core/pricing';
import { Trash2 } from 'lucide-react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { IconButton } from '../ui/Button';
import { Check, SelectField, TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import { catalogApi } from './api';
import { AddProduct, type ProductChoice, ProductChooser } from './ProductChooser';
import type { ProductDraft } from './productDraft';
import { useSheetFields } from './useSheetFields';

/** Products sold together at this product's price, each delivered in its own way. */
export function BundlePanel({ productId, currency }: { productId: string | null; currency: string }) {
  const field = useSheetFields();
  const { control, watch, setValue } = useFormContext<ProductDraft>();
  const { fields, append, remove } = useFieldArray({ control, name: 'bundle', keyName: 'key' });
  const [isBundle, bundle] = watch(['isBundle', 'bundle']);
  const isOffered = ({ id, isBundle: made }: ProductChoice) => id !== productId && !made;
  const { data: products = [] } = catalogApi.useProductsNamedQuery([...new Set(bundle.map((part) => part.productId).filter(Boolean))].sort(), {
    skip: bundle.length === 0,
  });
  const parts = bundleParts({ bundle: bundle.map((part) => ({ ...part, quantity: Number(part.quantity) || 0 })) }, (id) =>
    products.find((product) => product.id === id),
  );
  const apart = parts.reduce((sum, part) => sum + part.regular * part.quantity, 0);
  return (
    <Panel title="Several products together">
      <Check
        label="This is a bundle of other products"
        hint="Its tax is split by the parts’ own prices; each part is delivered in its own way."
        {...field('isBundle')}
      />
      {isBundle ? (
        <div className="mt-3">
          {fields.map((part, index) => {
            const path = `bundle.${index}`;
            const product = products.find((named) => named.id === bundle[index]?.productId);
            return (
              <div key={part.key} className="grid grid-cols-[minmax(0,2fr)_minmax(0,1fr)_5rem_2rem] gap-3 items-start mb-3">
                <ProductChooser
                  label="Product"
                  name={`${path}.productId`}
                  value={bundle[index]?.productId ?? ''}
                  error={field(`${path}.productId`).error}
                  offered={isOffered}
                  onChange={(id, row) => {
                    setValue(`bundle.${index}.productId`, id, { shouldDirty: true });
                    const edition = row?.editions[0];
                    if (edition) setValue(`bundle.${index}.editionId`, edition.id, { shouldDirty: true });
                  }}
                />
                <SelectField label="Edition" {...field(`${path}.editionId`)} value={bundle[index]?.editionId}>
                  {product?.editions.map((edition) => (
                    <option key={edition.id} value={edition.id}>
                      {edition.name || 'The only one'}
                    </option>
                  ))}
                </SelectField>
                <TextField label="Quantity" inputMode="numeric" {...field(`${path}.quantity`)} />
                <IconButton name="Take this part out" className="mt-7" onClick={() => remove(index)}>
                  <Trash2 size={16} />
                </IconButton>
              </div>
            );
          })}
          <div className="flex items-center gap-4">
            <AddProduct
              look="quiet"
              words="Add a part"
              offered={isOffered}
              onAdd={({ id, editions }) => append({ productId: id, editionId: editions[0]?.id ?? '', quantity: '1' })}
            />
            {fields.length > 0 ? <span className="text-soft">Bought one by one: {formatMoney(apart, currency)}</span> : null}
          </div>
        </div>
      ) : null}
    </Panel>
  );
}
