import type { OrderDetail } from '@ruta/core/orders';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { formatTime } from '../base/format';
import { Button, IconButton } from '../ui/Button';
import { FormProblem, TextArea } from '../ui/Field';
import { refusedAt, refusedWhole } from '../ui/fieldError';
import { LeaveGuard } from '../ui/LeaveGuard';
import { Panel } from '../ui/Page';
import { ordersApi } from './api';

/** What people of the shop wrote down about an order; buyers never see it. */
export function Notes({ order, timeZone }: { order: OrderDetail; timeZone: string }) {
  const [text, setText] = useState('');
  const [add, { error, isLoading }] = ordersApi.useAddNoteMutation();
  const [remove, { error: notRemoved }] = ordersApi.useRemoveNoteMutation();
  return (
    <Panel title="Notes">
      <LeaveGuard active={text.trim() !== ''} />
      <form
        noValidate
        className="grid gap-2 justify-items-start"
        onSubmit={(event) => {
          event.preventDefault();
          void add({ orderId: order.id, text })
            .unwrap()
            .then(() => setText(''))
            .catch(() => undefined);
        }}
      >
        <div className="w-full">
          <TextArea
            label="New note"
            hint="Only people of this shop read it."
            maxLength={2000}
            value={text}
            error={refusedAt(error, 'text')}
            onChange={(event) => setText(event.target.value)}
          />
        </div>
        <Button type="submit" disabled={isLoading || text.trim() === ''}>
          Add note
        </Button>
      </form>
      <FormProblem>{refusedWhole(error) ?? refusedWhole(notRemoved)}</FormProblem>
      {order.notes.length > 0 ? (
        <ul className="mt-3 grid gap-2">
          {order.notes.map((note) => (
            <li key={note.id} className="flex items-start gap-2 border-t border-line pt-2">
              <span className="min-w-0 flex-1">
                <span className="block whitespace-pre-wrap wrap-anywhere" dir="auto">
                  {note.text}
                </span>
                <span className="text-soft">
                  {formatTime(note.at, timeZone)}
                  {note.by ? `, ${note.by}` : ''}
                </span>
              </span>
              <IconButton name="Remove this note" onClick={() => void remove({ orderId: order.id, id: note.id })}>
                <Trash2 size={16} />
              </IconButton>
            </li>
          ))}
        </ul>
      ) : null}
    </Panel>
  );
}
