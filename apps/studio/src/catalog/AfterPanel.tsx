import { useFormContext } from 'react-hook-form';
import { SelectField, TextArea, TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import type { ProductDraft } from './productDraft';
import { useSheetFields } from './useSheetFields';

/** What buyers read after the purchase, and what they can rely on. */
export function AfterPanel() {
  const field = useSheetFields();
  return (
    <Panel title="After the purchase">
      <div className="grid gap-4">
        <ConfirmationFields path="confirmation" />
        <TextArea label="Refund policy" rows={2} {...field('refundPolicy')} />
        <TextField label="Whom to write to when dissatisfied" type="email" hint="Empty: the shop’s own address." {...field('contactEmail')} />
      </div>
    </Panel>
  );
}

/** Own words and a button, or an outside address. */
export function ConfirmationFields({ path }: { path: string }) {
  const field = useSheetFields();
  const { watch } = useFormContext<ProductDraft>();
  const kind = watch(`${path}.kind` as 'confirmation.kind');
  return (
    <>
      <SelectField label="Buyers then" {...field(`${path}.kind`)}>
        <option value="page">see the thank-you page, with these words</option>
        <option value="address">go to an outside address</option>
      </SelectField>
      {kind === 'address' ? (
        <TextField label="Outside address" placeholder="https://" {...field(`${path}.url`)} />
      ) : (
        <>
          <TextArea label="Words of confirmation" hint="On the thank-you page and again in the receipt. Empty: none." rows={3} {...field(`${path}.text`)} />
          <div className="grid sm:grid-cols-2 gap-4 items-start">
            <TextField label="Button" hint="For example “Say hello to the others”." maxLength={80} {...field(`${path}.buttonWords`)} />
            <TextField label="Where the button leads" placeholder="https://" {...field(`${path}.buttonUrl`)} />
          </div>
        </>
      )}
    </>
  );
}
