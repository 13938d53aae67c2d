import { useFormContext } from 'react-hook-form';
import { funnelApi } from '../funnel/api';
import { useRows } from '../lists/useRows';
import { Check, SelectField, TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import type { ProductDraft } from './productDraft';
import { usePast } from './usePast';
import { useSheetFields } from './useSheetFields';

/** Whether, how long and how often it can be bought. */
export function SalePanel({ timeZone }: { timeZone: string }) {
  const field = useSheetFields();
  const { watch } = useFormContext<ProductDraft>();
  const isPast = usePast();
  const leadTo = watch('leadTo');
  const { rows: funnels = [] } = useRows(funnelApi.useFunnelsInfiniteQuery({ limit: 200, sort: 'name', direction: 'asc' }));
  return (
    <Panel title="When can it be bought?">
      <div className="grid gap-4">
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <SelectField label="Status" {...field('status')}>
            <option value="live">Live: it can be bought</option>
            <option value="test">Test: only while the shop is in test mode</option>
            <option value="off">Off: nobody can buy it</option>
          </SelectField>
          <TextField
            label="Closes"
            hint={isPast(watch('closesAt')) ? 'This is past: nobody can buy it any more.' : `In the time of ${timeZone}. Empty: it stays open.`}
            type="datetime-local"
            {...field('closesAt')}
          />
        </div>
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <SelectField label="Who comes too late" hint="After it has closed, or when everything is sold." {...field('leadTo')}>
            <option value="message">reads a message</option>
            <option value="funnel">goes to another funnel</option>
            <option value="address">goes to an address</option>
          </SelectField>
          {leadTo === 'message' ? <TextField label="The message" hint="Empty: that it has closed or is sold out." {...field('leadText')} /> : null}
          {leadTo === 'address' ? <TextField label="The address" placeholder="https://" {...field('leadUrl')} /> : null}
          {leadTo === 'funnel' ? (
            <SelectField label="The funnel" {...field('leadFunnelId')}>
              <option value="">Choose one</option>
              {funnels.map((funnel) => (
                <option key={funnel.id} value={funnel.id}>
                  {funnel.name}
                </option>
              ))}
            </SelectField>
          ) : null}
        </div>
        <div className="grid sm:grid-cols-2 gap-2">
          <Check label="May be bought again" hint="By somebody who owns it: a gift, something that is used up." {...field('buyAgain')} />
          <Check label="Must be bought alone" hint="Nothing else goes on the same order." {...field('alone')} />
        </div>
      </div>
    </Panel>
  );
}
