import { words } from '@ruta/core/elements';
import { Check } from '../../ui/Field';
import type { SheetProps } from './sheet';

export function OrderFormSheet({ element, change }: SheetProps<'order-form'>) {
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
        checked={element.askTaxNumber ?? false}
        onChange={(event) => change({ askTaxNumber: event.target.checked })}
      />
      <Check
        label="Show a field for a discount code"
        hint="Without it, codes can only come with a link."
        checked={!element.hideCode}
        onChange={(event) => change({ hideCode: !event.target.checked })}
      />
    </>
  );
}
