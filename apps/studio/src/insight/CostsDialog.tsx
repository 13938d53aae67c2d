import { optionsOf, type Product } from '@ruta/core/catalog';
import type { ShopView } from '@ruta/core/pricing';
import { type Costs, CostsSchema, NO_COSTS } from '@ruta/core/shop';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { catalogApi } from '../catalog/api';
import { shopApi } from '../shop/api';
import { AmountField } from '../ui/AmountField';
import { Button } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';

/** What selling costs beside ads: fees, shipping and goods, for the profit of the reports. */
export default function CostsDialog({ shop, productIds, onClose }: { shop: ShopView; productIds: string[]; onClose: () => void }) {
  const { currency, costs: kept = NO_COSTS } = shop.settings;
  const [save, { error, isLoading }] = shopApi.useSaveShopMutation();
  const [begun] = useState(shop.revisions.settings);
  const [costs, setCosts] = useState<Costs>(kept);
  const [percents, setPercents] = useState({ feePercent: String(kept.feePercent), sendingPercent: String(kept.sendingPercent) });
  const { data: products = [] } = catalogApi.useProductsNamedQuery(productIds, { skip: productIds.length === 0 });
  const typed = { ...costs, feePercent: Number(percents.feePercent.replace(',', '.')), sendingPercent: Number(percents.sendingPercent.replace(',', '.')) };
  const read = CostsSchema.safeParse(typed);
  const wrong = (name: keyof Costs) =>
    read.success ? undefined : read.error.issues.find(({ path }) => path[0] === name) && 'Enter a percentage, for example 1.5.';
  async function send() {
    if (!read.success) return;
    const { currency: _currency, ...settings } = shop.settings;
    const done = await save({ begun, value: { ...settings, costs: read.data } })
      .unwrap()
      .catch(() => null);
    if (done) onClose();
  }
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title="What selling costs"
      description="For the profit in reports. Nobody but your team sees it."
      unsaved={JSON.stringify(typed) !== JSON.stringify(kept)}
    >
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <div className="grid gap-4 sm:grid-cols-3">
          <TextField
            label="Fee of each payment, %"
            inputMode="decimal"
            value={percents.feePercent}
            error={wrong('feePercent')}
            onChange={({ target }) => setPercents({ ...percents, feePercent: target.value })}
          />
          <AmountField label={`and fixed, ${currency}`} amount={costs.feeFixed} currency={currency} onAmount={(feeFixed) => setCosts({ ...costs, feeFixed })} />
          <TextField
            label="Sending costs, % of what buyers pay for it"
            inputMode="decimal"
            value={percents.sendingPercent}
            error={wrong('sendingPercent')}
            onChange={({ target }) => setPercents({ ...percents, sendingPercent: target.value })}
          />
        </div>
        {products.length > 0 ? (
          <fieldset>
            <legend className="font-semibold mb-1">What one of each costs you</legend>
            <p className="text-soft mb-2">Without tax. These were sold in the period that is shown.</p>
            <div className="grid gap-3 sm:grid-cols-3">
              {products.flatMap((product) =>
                editionsOf(product).map(({ id, name }) => (
                  <AmountField
                    key={id}
                    label={name}
                    amount={costs.goods[id] ?? 0}
                    currency={currency}
                    onAmount={(amount) => setCosts((now) => ({ ...now, goods: { ...now.goods, [id]: amount } }))}
                  />
                )),
              )}
            </div>
          </fieldset>
        ) : null}
        <FormProblem>{error ? (problemOf(error).errors[0]?.message ?? problemOf(error).title) : null}</FormProblem>
        <div>
          <Button look="main" type="submit" disabled={isLoading || !read.success}>
            Save
          </Button>
        </div>
      </form>
    </Modal>
  );
}

const editionsOf = (product: Product): Array<{ id: string; name: string }> =>
  [...new Map(optionsOf(product).map(({ edition }) => [edition.id, edition])).values()].map(({ id, name }) => ({
    id,
    name: product.editions.length > 1 ? `${product.name}, ${name}` : product.name,
  }));
