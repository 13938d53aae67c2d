import { formatMoney } from '@ruta/core/money';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { Button, ButtonAnchor } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Heads } from '../ui/Heads';
import { Modal } from '../ui/Modal';
import { Waiting } from '../ui/Page';
import { useCards } from '../ui/useCards';
import { partnersApi } from './api';

/** What is due to whom, counted as paid in one go, with the file for the bank; and what was paid out before. */
export function PayoutDialog({ currency, timeZone, onClose }: { currency: string; timeZone: string; onClose: () => void }) {
  const { data, error, refetch } = partnersApi.usePayoutsQuery();
  const cards = useCards();
  const [payOut, { isLoading }] = partnersApi.usePayOutMutation();
  const [problem, setProblem] = useState<string | null>(null);
  const [made, setMade] = useState<string | null>(null);
  const money = (amount: number) => formatMoney(amount, currency);
  return (
    <Modal open wide onClose={onClose} title="Pay partners" description="Commissions that wait for refunds no more. Pay them by your bank with the file.">
      {data ? (
        <div className="grid gap-4">
          {made ? (
            <div role="status" className="rounded-md bg-go-tint px-4 py-3 flex flex-wrap items-center gap-3">
              <span className="font-semibold mr-auto">Counted as paid out. The file says to whom and how much.</span>
              <ButtonAnchor look="main" href={`/api/partners/payouts/${made}/export`} download>
                <Download size={16} aria-hidden="true" /> Get the file
              </ButtonAnchor>
            </div>
          ) : null}
          {data.due.length > 0 ? (
            <>
              <table {...cards.table} className="w-full">
                <Heads cards={cards} names={['Partner', 'E-mail', { figures: 'Due' }]} />
                <tbody {...cards.group}>
                  {data.due.map(({ partnerId, name, email, amount }) => (
                    <tr key={partnerId} {...cards.row} className="border-t border-line">
                      <td {...cards.cell('')} className="py-1.5 wrap-anywhere">
                        {name}
                      </td>
                      <td {...cards.cell('E-mail')} className="wrap-anywhere">
                        {email}
                      </td>
                      <td {...cards.cell('Due')} className="text-right figures">
                        {money(amount)}
                      </td>
                    </tr>
                  ))}
                </tbody>
                <tfoot {...cards.group}>
                  <tr {...cards.row} className="border-t-2 border-ink font-semibold">
                    <td colSpan={2} {...cards.cell('')} className="py-1.5">
                      In all
                    </td>
                    <td {...cards.cell('Due')} className="text-right figures">
                      {money(data.total)}
                    </td>
                  </tr>
                </tfoot>
              </table>
              <FormProblem>{problem}</FormProblem>
              <div>
                <Button
                  look="main"
                  disabled={isLoading}
                  onClick={() => {
                    setProblem(null);
                    payOut({ total: data.total })
                      .unwrap()
                      .then(({ id }) => setMade(id))
                      .catch((refused) => {
                        setProblem(problemOf(refused).errors[0]?.message ?? problemOf(refused).title);
                        void refetch();
                      });
                  }}
                >
                  Count {money(data.total)} as paid out
                </Button>
              </div>
            </>
          ) : made ? null : (
            <p className="text-soft">Nothing is due now. What is held can be paid out once its days are over.</p>
          )}
          {data.done.length > 0 ? (
            <section>
              <h3 className="font-semibold mb-1">Paid out before</h3>
              <ul>
                {data.done.map(({ id, at, total, partners }) => (
                  <li key={id} className="flex items-center justify-between gap-3 border-t border-line py-1.5">
                    <span>
                      {formatTime(at, timeZone)}, {partners === 1 ? 'one partner' : `${partners} partners`}
                    </span>
                    <span className="figures ml-auto">{money(total)}</span>
                    <a className="text-info underline" href={`/api/partners/payouts/${id}/export`} download>
                      File
                    </a>
                  </li>
                ))}
              </ul>
            </section>
          ) : null}
        </div>
      ) : (
        <Waiting error={error} retry={refetch} />
      )}
    </Modal>
  );
}
