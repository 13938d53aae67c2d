import { Choice } from './Choice';
import type { SheetProps } from './sheet';

export function OffersSheet({ element, change }: SheetProps<'offers'>) {
  return (
    <>
      <p className="text-soft">
        What is offered here, at what price and until when, is set in the Offer view. Words on a single offer’s yes come before these.
      </p>
      <Choice label="The no is" value={element.noLook} choices={{ link: 'A plain link', button: 'A button' }} onChange={(noLook) => change({ noLook })} />
    </>
  );
}
