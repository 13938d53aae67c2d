import { type OrderPart, orderParts, words } from '@ruta/core/elements';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { shopApi } from '../../shop/api';
import { IconButton } from '../../ui/Button';
import { Check } from '../../ui/Field';
import type { SheetProps } from './sheet';

export function OrderFormSheet({ element, change }: Pick<SheetProps<'order-form'>, 'element' | 'change'>) {
  const { data: shop } = shopApi.useShopQuery();
  return (
    <>
      <p className="text-soft">First name and e-mail are always asked: the receipt needs them.</p>
      <Check label="Ask for the last name" checked={element.askLastName} onChange={(event) => change({ askLastName: event.target.checked })} />
      <Check
        label="Ask for the country"
        hint="The tax depends on it. Without it your own country counts."
        checked={element.askCountry}
        onChange={(event) => change({ askCountry: event.target.checked })}
      />
      <Check
        label="Two stages: contact details first"
        hint="The address is then kept even if they leave before paying."
        checked={element.stages ?? false}
        onChange={(event) => change({ stages: event.target.checked, ...(event.target.checked && !element.next ? { next: words('To the payment') } : {}) })}
      />
      <Check label="Ask how many" checked={element.askQuantity ?? false} onChange={(event) => change({ askQuantity: event.target.checked })} />
      <Check
        label="Ask for a business tax number"
        hint="Businesses elsewhere in the European Union then pay without tax."
        checked={element.askTaxNumber ?? shop?.settings.sellsToBusinesses ?? false}
        onChange={(event) => change({ askTaxNumber: event.target.checked })}
      />
      <Check
        label="Show a field for a discount code"
        hint="Without it, codes can only come with a link."
        checked={!element.hideCode}
        onChange={(event) => change({ hideCode: !event.target.checked })}
      />
      <Parts parts={orderParts(element.parts)} onChange={(parts) => change({ parts })} />
    </>
  );
}

const PARTS: Record<OrderPart, string> = {
  choice: 'What and how many',
  contact: 'Contact details',
  code: 'Discount code',
  payment: 'Payment',
};

/** The parts of the form in their order. */
function Parts({ parts, onChange }: { parts: OrderPart[]; onChange: (parts: OrderPart[]) => void }) {
  const swapped = (index: number) => parts.with(index, parts[index + 1] as OrderPart).with(index + 1, parts[index] as OrderPart);
  const canSwap = (index: number) => index >= 0 && index < parts.length - 1 && !(parts[index] === 'contact' && parts[index + 1] === 'payment');
  return (
    <section className="grid gap-1.5">
      <h3 className="font-semibold">Order of its parts</h3>
      <ol className="grid gap-1">
        {parts.map((part, index) => (
          <li key={part} className="flex items-center gap-1 rounded-md border border-line pl-3 pr-1 py-0.5">
            <span className="mr-auto">{PARTS[part]}</span>
            <IconButton name={`${PARTS[part]}: up`} disabled={!canSwap(index - 1)} onClick={() => onChange(swapped(index - 1))}>
              <ArrowUp size={15} />
            </IconButton>
            <IconButton name={`${PARTS[part]}: down`} disabled={!canSwap(index)} onClick={() => onChange(swapped(index))}>
              <ArrowDown size={15} />
            </IconButton>
          </li>
        ))}
      </ol>
      <p className="text-soft">The payment follows the contact details: the tax depends on them. In two stages, the second begins after them.</p>
    </section>
  );
}
