import { formatMoney } from '@ruta/core/money';
import { ArrowLeft, Copy, Download } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { formatTime } from '../base/format';
import { shopApi } from '../shop/api';
import { Button, ButtonAnchor } from '../ui/Button';
import { Heads } from '../ui/Heads';
import { Notice } from '../ui/Notice';
import { Badge, Page, Panel, Waiting } from '../ui/Page';
import { useCards } from '../ui/useCards';
import { partnersApi } from './api';
import { PartnerDialog } from './PartnerDialog';
import { rateWords } from './PartnersPage';

/** What one partner has earned, by which sales, and what of it was paid out. */
export function PartnerPage() {
  const cards = useCards();
  const { partnerId = '' } = useParams();
  const { data, error, refetch } = partnersApi.useStatementQuery(partnerId);
  const { data: shop } = shopApi.useShopQuery();
  const [editing, setEditing] = useState(false);
  const [copied, setCopied] = useState(false);
  if (!data || !shop) return <Waiting error={error} retry={refetch} />;
  const { currency, timeZone } = shop.settings;
  const { row, earned, payouts, recruited } = data;
  const money = (amount: number) => formatMoney(amount, currency);
  return (
    <Page
      title={row.partner.name}
      actions={
        <>
          {row.partner.isOn ? null : <Badge tone="plain">Off</Badge>}
          <ButtonAnchor href={`/api/partners/${row.id}/export`} download>
            <Download size={16} aria-hidden="true" /> Statement
          </ButtonAnchor>
          <Button onClick={() => setEditing(true)}>Change</Button>
        </>
      }
    >
      <p className="mb-4">
        <Link to="/sales/partners" className="inline-flex items-center gap-1.5 text-info underline">
          <ArrowLeft size={16} aria-hidden="true" /> All partners
        </Link>
      </p>
      <dl className="grid grid-cols-2 sm:grid-cols-5 gap-px bg-line border border-line rounded-md overflow-hidden mb-4">
        {[
          ['Orders', String(row.orders)],
          ['Earned', money(row.earned)],
          ['Held for refunds', money(row.held)],
          ['Due', money(row.payable)],
          ['Paid out', money(row.paidOut)],
        ].map(([name, value]) => (
          <div key={name} className="bg-white px-4 py-3">
            <dt className="text-soft">{name}</dt>
            <dd className="text-lg font-bold figures">{value}</dd>
          </div>
        ))}
      </dl>
      {row.payable < 0 ? (
        <Notice tone="info" role="note" className="mb-4">
          {money(-row.payable)} was paid out for sales that were given back since. It is taken off what they earn next.
        </Notice>
      ) : null}
      <div className="grid lg:grid-cols-[minmax(0,3fr)_minmax(0,1fr)] gap-4 items-start">
        <Panel title="What they earned">
          {earned.length === 0 ? (
            <p className="text-soft">Nothing yet. Their link is on the right: sales that follow a visit by it stand here.</p>
          ) : (
            <div className="overflow-x-auto">
              <table {...cards.table} className="w-full">
                <Heads cards={cards} names={['When', 'Sale', { figures: 'Of' }, { figures: 'Rate' }, { figures: 'Earned' }, 'State']} />
                <tbody {...cards.group}>
                  {earned.map((each) => (
                    <tr {...cards.row} key={each.id} className="border-t border-line align-top">
                      <td {...cards.cell('When')} className="py-2 pr-3 whitespace-nowrap">
                        {formatTime(each.at, timeZone)}
                      </td>
                      <td {...cards.cell('')} className="py-2 wrap-anywhere">
                        {each.goods}
                        <Link to={`/sales/orders/${each.orderId}`} className="block text-info underline">
                          Order {each.orderNumber}
                        </Link>
                        {each.tier === 2 ? <span className="block text-soft">by somebody they recruited</span> : null}
                      </td>
                      <td {...cards.cell('Of')} className="py-2 pr-4 text-right figures whitespace-nowrap">
                        {money(each.base)}
                      </td>
                      <td {...cards.cell('Rate')} className="py-2 pr-4 text-right figures whitespace-nowrap">
                        {rateWords(each.rate, currency)}
                      </td>
                      <td {...cards.cell('Earned')} className="py-2 pr-4 text-right figures font-semibold whitespace-nowrap">
                        {money(each.amount)}
                      </td>
                      <td {...cards.cell('State')} className="py-2 whitespace-nowrap">
                        <State {...each} timeZone={timeZone} />
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </Panel>
        <div>
          <Panel title="Their link">
            <p className="font-mono wrap-anywhere mb-2">{row.link}</p>
            <Button
              onClick={() => {
                void navigator.clipboard?.writeText(row.link).then(() => setCopied(true));
              }}
            >
              <Copy size={16} aria-hidden="true" /> {copied ? 'Copied' : 'Copy'}
            </Button>
            <p className="text-soft mt-3">
              Or put <code className="font-mono text-ink">?partner={row.partner.code}</code> behind any address of the shop.
            </p>
          </Panel>
          {row.recruiter || recruited.length > 0 ? (
            <Panel title="Recruiting">
              {row.recruiter ? <p>Recruited by {row.recruiter}.</p> : null}
              {recruited.length > 0 ? (
                <p>
                  Has recruited{' '}
                  {recruited.map(({ id, name }, index) => (
                    <span key={id}>
                      {index > 0 ? ', ' : ''}
                      <Link to={`/sales/partners/${id}`} className="text-info underline">
                        {name}
                      </Link>
                    </span>
                  ))}
                  .
                </p>
              ) : null}
            </Panel>
          ) : null}
          <Panel title="Paid out">
            {payouts.length === 0 ? <p className="text-soft">Nothing so far.</p> : null}
            <ul>
              {payouts.map(({ id, at, amount }) => (
                <li key={id} className="flex justify-between gap-3 py-1 border-t border-line first:border-0">
                  <span>{formatTime(at, timeZone)}</span>
                  <span className="figures">{money(amount)}</span>
                </li>
              ))}
            </ul>
          </Panel>
        </div>
      </div>
      {editing ? <PartnerDialog row={row} shop={shop} onClose={() => setEditing(false)} /> : null}
    </Page>
  );
}

function State({ amount, paidOut, heldUntil, timeZone }: { amount: number; paidOut: number; heldUntil: number; timeZone: string }) {
  if (paidOut > amount) return <Badge tone="stop">Given back after</Badge>;
  if (amount === 0) return <Badge tone="plain">Given back</Badge>;
  if (paidOut === amount) return <Badge tone="go">Paid out</Badge>;
  return heldUntil > Date.now() ? <Badge tone="plain">Held until {formatTime(heldUntil, timeZone).split(',')[0]}</Badge> : <Badge tone="info">Due</Badge>;
}
