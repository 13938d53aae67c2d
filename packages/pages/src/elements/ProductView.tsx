import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';

/** What the product's own sheet says of it: description, what is included, a preview, the refund policy. */
export function ProductView({ element }: { element: ElementOf<'product'> }) {
  const { context, edit } = usePage();
  const { product } = context;
  const shows = (part: ElementOf<'product'>['shows'][number]) => element.shows.includes(part);
  const isEmpty =
    !product ||
    !(
      (shows('description') && product.richDescription) ||
      (shows('included') && product.included.length > 0) ||
      (shows('preview') && product.previewUrl) ||
      (shows('policy') && product.refundPolicy)
    );
  if (isEmpty) return edit ? <p className="text text-small">What the product’s sheet says stands here.</p> : null;
  return (
    <div className="product">
      {shows('description') && product.richDescription ? (
        // biome-ignore lint/security/noDangerouslySetInnerHtml: cleaned down to words, lists and links before it was kept
        <div className="rich" dangerouslySetInnerHTML={{ __html: product.richDescription }} />
      ) : null}
      {shows('included') && product.included.length > 0 ? (
        <ul className="list list-check">
          {product.included.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      ) : null}
      {shows('preview') && product.previewUrl ? (
        <p>
          <a href={product.previewUrl}>Have a look inside</a>
        </p>
      ) : null}
      {shows('policy') && product.refundPolicy ? <p className="text text-small">{product.refundPolicy}</p> : null}
    </div>
  );
}
