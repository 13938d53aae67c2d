import { PRODUCT_PARTS } from '@ruta/core/elements';
import { Check } from '../../ui/Field';
import type { SheetProps } from './sheet';

const PART_NAMES = { description: 'The description', included: 'What is included', preview: 'The link to a preview', policy: 'The refund policy' };

export function ProductSheet({ element, change }: SheetProps<'product'>) {
  return (
    <fieldset>
      <legend className="font-semibold mb-1">Shows, from the product’s sheet</legend>
      {PRODUCT_PARTS.map((part) => (
        <Check
          key={part}
          label={PART_NAMES[part]}
          checked={element.shows.includes(part)}
          disabled={element.shows.length === 1 && element.shows[0] === part}
          onChange={(event) => change({ shows: PRODUCT_PARTS.filter((other) => (other === part ? event.target.checked : element.shows.includes(other))) })}
        />
      ))}
    </fieldset>
  );
}
