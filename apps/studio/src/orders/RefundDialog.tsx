import { type Currency, formatMoney } from '@ruta/core/money';
import type { OrderDetail, RefundWay } from '@ruta/core/orders';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { newId } from '../base/newId';
import { AmountField } from '../ui/AmountField';
import { Button } from '../ui/Button';
import { Check, FormProblem, SelectField, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { ordersApi } from './api';

/** Gives money of an order back: which lines, how much of each, in which way, and what follows. */
export function RefundDialog({ order, onClose }: { order: OrderDetail; onClose: () => void }) {
  const [give, giving] = ordersApi.useGiveBackMutation();
  const open = order.lines.filter(({ total, refunded, partOf }) => partOf === null && total > refunded);
  const [amounts, setAmounts] = useState<Record<string, number>>(() => Object.fromEntries(open.map(({ id, total, refunded }) => [id, total - refunded])));
  const isPart = open.some((line) => (amounts[line.id] ?? 0) !== line.total - line.refunded);
  const [way, setWay] = useState<RefundWay>('processor');
  const [reason, setReason] = useState('');
  const [takesBack, setTakesBack] = useState(true);
  const [tells, setTells] = useState(true);
  // One id for as long as the dialog is open: pressed twice, or sent again after a lost answer, money goes back once.
  const [id] = useState(() => newId('refund'));
  const chosen = open.filter((line) => (amounts[line.id] ?? 0) > 0);
  const total = chosen.reduce((sum, line) => sum + (amounts[line.id] ?? 0), 0);
  const tooMuch = chosen.find((line) => (amounts[line.id] ?? 0) > line.total - line.refunded);
  const atProcessor = chosen.every(({ isAtProcessor }) => isAtProcessor);
  const used: RefundWay = atProcessor ? way : 'noted';
  const money = (amount: number) => formatMoney(amount, order.currency as Currency);
  const problem = giving.error ? problemOf(giving.error) : null;
  const send = () =>
    give({
      orderId: order.id,
      request: { id, lines: chosen.map((line) => ({ id: line.id, amount: amounts[line.id] ?? 0 })), way: used, reason, takesBack, tells },
    })
      .unwrap()
      .then(onClose, () => undefined);
  return (
    <Modal open onClose={onClose} title={order.number ? `Give money of order ${order.number} back` : 'Give money back'} unsaved={reason !== '' || isPart}>
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (total > 0 && !tooMuch) void send();
        }}
      >
        <fieldset>
          <legend className="font-semibold mb-1">What is given back</legend>
          <ul className="grid gap-2">
            {open.map((line) => {
              const left = line.total - line.refunded;
              const amount = amounts[line.id] ?? 0;
              const set = (value: number) => setAmounts({ ...amounts, [line.id]: value });
              return (
                <li key={line.id} className="grid grid-cols-[minmax(0,1fr)_9rem] gap-3 items-start border-b border-line pb-2">
                  <div className="break-words min-w-0 pt-1">
                    <Check
                      label={line.role === 'shipping' ? `Shipping, ${line.name}` : line.name}
                      hint={`${money(left)} ${line.refunded > 0 ? `left of ${money(line.total)}` : 'paid'}, tax included`}
                      checked={amount > 0}
                      onChange={({ target }) => set(target.checked ? left : 0)}
                    />
                  </div>
                  <div>
                    <AmountField label="Amount" amount={amount} currency={order.currency} onAmount={set} />
                    {amount > left ? (
                      <p role="alert" className="mt-1 text-stop font-semibold">
                        At most {money(left)}.
                      </p>
                    ) : null}
                  </div>
                </li>
              );
            })}
          </ul>
        </fieldset>
        {atProcessor ? (
          <SelectField label="How" value={way} onChange={(event) => setWay(event.target.value as RefundWay)}>
            <option value="processor">To the card it was paid with</option>
            <option value="noted">It was given back elsewhere, only note it here</option>
          </SelectField>
        ) : (
          <p className="text-soft">This was not charged at an account that is connected here. Give it back where it was taken, and note it here.</p>
        )}
        <TextField
          label="Reason"
          hint="For your own books; the buyer does not see it."
          maxLength={200}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
        <div className="grid gap-1.5">
          <Check
            label="Take the goods back"
            hint="Downloads and later payments of lines given back whole end. Licence keys and places in a course stay; end them where they are."
            checked={takesBack}
            onChange={({ target }) => setTakesBack(target.checked)}
          />
          <Check label="Tell the buyer by mail" checked={tells} onChange={({ target }) => setTells(target.checked)} />
        </div>
        <FormProblem>{problem ? (problem.errors?.[0]?.message ?? problem.title) : null}</FormProblem>
        <div className="flex flex-wrap justify-end gap-2">
          <Button type="button" onClick={onClose}>
            Keep it
          </Button>
          <Button type="submit" look="danger" disabled={total === 0 || tooMuch !== undefined || giving.isLoading}>
            {used === 'noted' ? `Note ${money(total)} as given back` : `Give ${money(total)} back`}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
