import type { ElementOf } from '@ruta/core/elements';
import { formatMoney } from '@ruta/core/money';
import { usePage } from '../context';
import { WordsView } from '../WordsView';

export function PriceView({ element }: { element: ElementOf<'price'> }) {
  const { context } = usePage();
  const { product, shop } = context;
  const money = (amount: number) => formatMoney(amount, shop.currency, { short: true });
  return (
    <div className="price">
      {product && product.struck !== null ? (
        <p className="price-was">
          <span className="unseen">Price before </span>
          <s>{money(product.struck)}</s>
        </p>
      ) : null}
      <p className="price-now">{product?.price ?? '–'}</p>
      {product?.otherPrices.map((price) => (
        <p key={price} className="price-other">
          or {price}
        </p>
      ))}
      <p className="text text-small">
        <WordsView words={element.note} elementId={element.id} path={['note']} />
      </p>
    </div>
  );
}
