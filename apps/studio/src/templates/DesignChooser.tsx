import type { Product } from '@ruta/core/catalog';
import { TRADES, type Trade } from '@ruta/core/elements';
import { stopsInOrder } from '@ruta/core/funnel';
import type { ShopView } from '@ruta/core/pricing';
import { LOOKS } from '@ruta/core/shop';
import { DESIGNS, drawFunnel, dress, type FunnelDesign, templateOf } from '@ruta/core/templates';
import { useMemo, useState } from 'react';
import { newId } from '../base/newId';
import { studioContext } from '../page/studioContext';
import { Check, SelectField } from '../ui/Field';
import { PagePicture } from '../ui/PagePicture';

interface ChooserProps {
  value: string | null;
  ownLook: boolean;
  product: Product;
  gift: Product | undefined;
  shop: ShopView;
  onChange: (design: FunnelDesign | null) => void;
  onOwnLook: (ownLook: boolean) => void;
}

/** Whole funnels by trade, each shown with the seller's own product; in a look of its own or the shop's. */
export function DesignChooser({ value, ownLook, product, gift, shop, onChange, onOwnLook }: ChooserProps) {
  const [trade, setTrade] = useState<Trade | ''>('');
  const found = DESIGNS.filter((design) => !trade || design.trade === trade);
  return (
    <>
      <div className="grid sm:grid-cols-2 gap-4 items-end mb-4">
        <SelectField label="Trade" value={trade} onChange={(event) => setTrade(event.target.value as Trade | '')}>
          <option value="">All</option>
          {(Object.entries(TRADES) as Array<[Trade, string]>)
            .filter(([key]) => DESIGNS.some((design) => design.trade === key))
            .map(([key, name]) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
        </SelectField>
        <Check
          label="In the look of the design"
          hint="Otherwise in your shop’s brand. It can be changed for each funnel afterwards."
          checked={ownLook}
          onChange={(event) => onOwnLook(event.target.checked)}
        />
      </div>
      <fieldset className="grid md:grid-cols-2 xl:grid-cols-3 gap-4">
        <legend className="sr-only">Design of the funnel</legend>
        <label className={`block rounded-md border-2 p-4 cursor-pointer ${value === null ? 'border-ink bg-way-tint/40' : 'border-line hover:border-soft'}`}>
          <span className="flex items-center gap-2">
            <input type="radio" name="design" checked={value === null} onChange={() => onChange(null)} className="size-4 accent-go" />
            <span className="font-bold">None: a plain shape</span>
          </span>
          <span className="block text-soft mt-1">Few sections, in your shop’s brand, to be filled by you.</span>
        </label>
        {found.map((design) => (
          <label
            key={design.design}
            data-design={design.design}
            className={`block rounded-md border-2 p-4 cursor-pointer min-w-0 has-focus-visible:outline-2 has-focus-visible:outline-info ${value === design.design ? 'border-ink bg-way-tint/40' : 'border-line hover:border-soft'}`}
          >
            <span className="flex items-center gap-2 mb-1">
              <input
                type="radio"
                name="design"
                value={design.design}
                checked={value === design.design}
                onChange={() => onChange(design)}
                className="size-4 accent-go"
              />
              <span className="font-bold">{design.name}</span>
              <span className="ml-auto text-soft">{TRADES[design.trade]}</span>
            </span>
            <span className="block text-soft mb-3">
              {design.purpose} {LOOKS[design.brand.look ?? 'plain'].name}.
            </span>
            <DesignPictures design={design} ownLook={ownLook} product={product} gift={gift} shop={shop} />
          </label>
        ))}
      </fieldset>
    </>
  );
}

/** The first two pages of a design, large enough to judge. */
function DesignPictures({ design, ownLook, product, gift, shop }: Pick<ChooserProps, 'ownLook' | 'product' | 'gift' | 'shop'> & { design: FunnelDesign }) {
  const { drawn, products } = useMemo(() => {
    const stand = gift ?? { id: newId('product'), name: 'A free gift', pictureIds: [] };
    const about = { product, gift: templateOf(design.template).needsGift ? stand : undefined };
    return {
      drawn: dress(drawFunnel(design.template, about, newId), design, about, newId),
      products: { [product.id]: product, ...(gift ? { [gift.id]: gift } : {}) },
    };
  }, [design, product, gift]);
  const first = stopsInOrder(drawn.graph)
    .filter(({ id, kind }) => design.pages[kind] !== undefined || id === drawn.graph.entryId)
    .slice(0, 2);
  const graph = { products, giftId: gift?.id ?? null, graph: drawn.graph, brand: ownLook ? design.brand : null };
  return (
    <span className="grid grid-cols-2 gap-2">
      {first.map((step) => {
        const page = drawn.pages[step.id];
        return (
          <span key={step.id} className="block rounded-md border border-line overflow-hidden">
            {page ? <PagePicture page={page} context={studioContext(shop, graph, step, {})} width={158} height={190} most={6} /> : null}
          </span>
        );
      })}
    </span>
  );
}
