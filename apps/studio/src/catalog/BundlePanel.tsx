import { bundleParts, formatMoney, productLabel } from '@ruta/core';
import { Plus, Trash2 } from 'lucide-react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { api } from '../app/api';
import { Button, IconButton } from '../ui/Button';
import { Check, SelectField, TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import type { ProductDraft } from './productDraft';
import { useSheetFields } from './useSheetFields';

/** Products sold together at this product's price, each delivered in its own way. */
export function BundlePanel({ productId, currency }: { productId: string | null; currency: string }) {
  const field = useSheetFields();
  const { control, watch, setValue } = useFormContext<ProductDraft>();
  const { fields, append, remove } = useFieldArray({ control, name: 'bundle', keyName: 'key' });
  const { data: products = [] } = api.useProductsQuery();
  const offered = products.filter((product) => product.id !== productId && product.bundle.length === 0);
  const [isBundle, bundle] = watch(['isBundle', 'bundle']);
  const add = () => {
    const [first] = offered;
    if (first?.editions[0]) append({ productId: first.id, editionId: first.editions[0].id, quantity: '1' });
  };
  const parts = bundleParts({ bundle: bundle.map((part) => ({ ...part, quantity: Number(part.quantity) || 0 })) }, (id) =>
    offered.find((product) => product.id === id),
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
            const product = offered.find((candidate) => candidate.id === bundle[index]?.productId);
            const { onChange, ...chosen } = field(`${path}.productId`);
            return (
              <div key={part.key} className="grid grid-cols-[minmax(0,2fr)_minmax(0,1fr)_5rem_2rem] gap-3 items-start mb-3">
                <SelectField
                  label="Product"
                  {...chosen}
                  value={bundle[index]?.productId}
                  onChange={(event) => {
                    void onChange(event);
                    const edition = offered.find((candidate) => candidate.id === event.target.value)?.editions[0];
                    if (edition) setValue(`bundle.${index}.editionId`, edition.id);
                  }}
                >
                  {offered.map((candidate) => (
                    <option key={candidate.id} value={candidate.id}>
                      {productLabel(candidate)}
                    </option>
                  ))}
                </SelectField>
                <SelectField label="Edition" {...field(`${path}.editionId`)} value={bundle[index]?.editionId}>
                  {product?.editions.map((edition) => (
                    <option key={edition.id} value={edition.id}>
                      {edition.name || 'The only one'}
                    </option>
                  ))}
                </SelectField>
                <TextField label="Pieces" inputMode="numeric" {...field(`${path}.quantity`)} />
                <IconButton name="Take this part out" className="mt-7" onClick={() => remove(index)}>
                  <Trash2 size={16} />
                </IconButton>
              </div>
            );
          })}
          <div className="flex items-center gap-4">
            <Button look="quiet" onClick={add} disabled={offered.length === 0}>
              <Plus size={16} aria-hidden="true" /> Add a part
            </Button>
            {fields.length > 0 ? <span className="text-soft">Bought one by one: {formatMoney(apart, currency)}</span> : null}
          </div>
        </div>
      ) : null}
    </Panel>
  );
}
