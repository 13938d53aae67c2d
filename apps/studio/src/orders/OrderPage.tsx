import { formatMoney } from '@ruta/core/money';
import { countryName } from '@ruta/core/shop';
import { QuoteTable } from '@ruta/pages';
import { ArrowLeft } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { partnersApi } from '../partners/api';
import { shopApi } from '../shop/api';
import { Story } from '../tracking/Story';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Heads } from '../ui/Heads';
import { LaterPayments } from '../ui/LaterPayments';
import { Badge, Page, Panel, Waiting } from '../ui/Page';
import { useCards } from '../ui/useCards';
import { AddressDialog } from './AddressDialog';
import { ordersApi } from './api';
import { Notes } from './Notes';
import { RefundDialog } from './RefundDialog';
import { Refunds } from './Refunds';
import { STATE_WORDS } from './stateWords';
import { TaxNumberProof } from './TaxNumberProof';
import { Troubles } from './Troubles';

const POLL_MS = 2000;
const DISPUTES = { open: 'The bank asks for it', won: 'Dispute won', lost: 'Dispute lost' };

export function OrderPage() {
  const cards = useCards();
  const { orderId = '' } = useParams();
  const { data: order, error, refetch } = ordersApi.useOrderQuery(orderId);
  const { data: shop } = shopApi.useShopQuery();
  const { data: delivery } = ordersApi.useOrderDeliveryQuery(orderId);
  const { data: upcoming } = ordersApi.useUpcomingQuery(orderId);
  const { data: brought } = partnersApi.useOrderPartnerQuery(orderId);
  const [sendAgain] = ordersApi.useSendAgainMutation();
  const [sendReceipt, { data: receipt, error: notSent, isLoading: isSending }] = ordersApi.useSendReceiptMutation();
  const [isRefunding, setRefunding] = useState(false);
  const [isEditing, setEditing] = useState(false);
  // What the processor is still asked for is looked after until it is known.
  const waits = order?.refunds.some(({ state }) => state === 'pending') ?? false;
  ordersApi.useOrderQuery(orderId, { skip: !waits, pollingInterval: POLL_MS });
  if (!order || !shop) return <Waiting error={error} retry={refetch} />;
  const timeZone = shop.settings.timeZone;
  const isPaid = order.state !== 'open';
  const charges = order.payments.flatMap((payment) => payment.charges);
  const { files = [], keys = [], links = [] } = delivery ?? {};
  return (
    <Page
      title={order.number ? `Order ${order.number}` : isPaid ? 'Gift' : 'Open order'}
      actions={
        <>
          {order.mode === 'test' ? <Badge tone="info">Test, left out of the figures</Badge> : null}
          {order.state === 'refunded' || order.state === 'part-refunded' ? <Badge tone="plain">{STATE_WORDS[order.state]}</Badge> : null}
          {order.lines.some(({ total, refunded }) => total > refunded) ? <Button onClick={() => setRefunding(true)}>Give money back</Button> : null}
        </>
      }
    >
      <p className="mb-4">
        <Link to="/sales/orders" className="inline-flex items-center gap-1.5 text-info underline">
          <ArrowLeft size={16} aria-hidden="true" /> All orders
        </Link>
      </p>
      <div className="grid lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)] gap-4 items-start">
        <div>
          <Troubles order={order} timeZone={timeZone} />
          {order.payments.map((payment) => (
            <Panel
              key={payment.id}
              title={payment.paidAt === null ? 'Not paid yet' : `${payment.amount > 0 ? 'Paid' : 'Bought'} ${formatTime(payment.paidAt, timeZone)}`}
            >
              <div className="studio-quote">
                <QuoteTable quote={payment.quote} dueLabel="Paid" />
              </div>
              {upcoming && payment.kind === 'first' ? <LaterPayments {...upcoming} total={payment.quote.total} /> : null}
            </Panel>
          ))}
          <Refunds order={order} timeZone={timeZone} />
          <Panel title="Payments">
            <table {...cards.table} className="w-full">
              <Heads cards={cards} names={['When', 'Through', 'Card', 'State', { figures: 'Amount' }]} />
              <tbody {...cards.group}>
                {charges.map((charge) => (
                  <tr {...cards.row} key={charge.id} className="border-t border-line">
                    <td {...cards.cell('')} className="py-1.5">
                      {formatTime(charge.createdAt, timeZone)}
                    </td>
                    <td {...cards.cell('Through')} className="capitalize">
                      {charge.provider}
                    </td>
                    <td {...cards.cell('Card')}>{charge.cardLast4 ? `ending ${charge.cardLast4}` : '–'}</td>
                    <td {...cards.cell('State')}>
                      {charge.dispute ? (
                        <Badge tone={charge.dispute === 'won' ? 'go' : 'stop'}>{DISPUTES[charge.dispute]}</Badge>
                      ) : charge.state === 'captured' ? (
                        <Badge tone="go">Captured</Badge>
                      ) : (
                        <Badge tone={charge.state === 'declined' || charge.state === 'failed' ? 'stop' : 'plain'}>{charge.state}</Badge>
                      )}
                    </td>
                    <td {...cards.cell('Amount')} className="text-right">
                      {formatMoney(charge.amount, order.currency)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {charges.length === 0 ? <p className="text-soft">Nothing to pay.</p> : null}
          </Panel>
          <Panel
            title="Mails and enrolments"
            actions={
              isPaid ? (
                <Button disabled={isSending} onClick={() => void sendReceipt(order.id)}>
                  Send receipt again
                </Button>
              ) : null
            }
          >
            <p role="status" className="text-soft">
              {receipt?.queued ? `A receipt is on its way to ${order.buyer.email}.` : ''}
            </p>
            <FormProblem>{notSent ? problemOf(notSent).title : null}</FormProblem>
            <ul>
              {order.mails.map((mail) => (
                <li key={mail.id} className="flex items-center justify-between gap-3 border-b border-line last:border-0 py-2">
                  <span>
                    <span className="font-semibold">{mail.subject}</span>
                    <span className="block text-soft">
                      to {mail.to}.{' '}
                      {mail.sentAt
                        ? `Sent ${formatTime(mail.sentAt, timeZone)}`
                        : mail.failedAt
                          ? `Gave up: ${mail.lastError}`
                          : mail.lastError
                            ? `Trying again: ${mail.lastError}`
                            : 'On its way'}
                    </span>
                  </span>
                  {mail.failedAt ? <Button onClick={() => sendAgain(mail.id)}>Send again</Button> : null}
                </li>
              ))}
            </ul>
          </Panel>
        </div>
        <div>
          <Panel title="Buyer" actions={<Button onClick={() => setEditing(true)}>Edit</Button>}>
            <p className="font-semibold">
              {order.buyer.firstName} {order.buyer.lastName}
            </p>
            <p>
              {order.contactId ? (
                <Link to={`/sales/contacts/${order.contactId}`} className="text-info underline">
                  {order.buyer.email}
                </Link>
              ) : (
                order.buyer.email
              )}
            </p>
            {order.buyer.address ? (
              <p>
                {order.buyer.address.street}, {order.buyer.address.postcode} {order.buyer.address.city}
              </p>
            ) : null}
            <p className="text-soft">
              {order.buyer.region ? `${order.buyer.region}, ` : ''}
              {countryName(order.buyer.country)}
            </p>
            {order.buyer.taxNumber ? <p className="text-soft">Business, tax number {order.buyer.taxNumber}</p> : null}
            <TaxNumberProof orderId={order.id} proof={order.taxNumberProof} timeZone={timeZone} />
            {order.campaign ? <p className="text-soft mt-2">Source: {Object.values(order.campaign).join(', ')}</p> : null}
            {brought?.partner ? (
              <p className="text-soft">
                Brought by{' '}
                <Link to={`/sales/partners/${brought.partner.id}`} className="text-info underline">
                  {brought.partner.name}
                </Link>
                : commission {formatMoney(brought.commission, order.currency)}
              </p>
            ) : null}
            <p className="mt-2">
              Through{' '}
              <Link to={`/funnels/${order.funnelId}/map`} className="text-info underline">
                {order.funnelName}
              </Link>
            </p>
          </Panel>
          {files.length > 0 ? (
            <Panel title="Files">
              <ul>
                {files.map((file) => (
                  <li key={file.id} className="flex justify-between gap-3 py-1">
                    <span className="font-semibold">{file.name}</span>
                    <span className="text-soft figures">
                      fetched {file.downloads} {file.maxDownloads === null ? 'times' : `of ${file.maxDownloads} times`}
                    </span>
                  </li>
                ))}
              </ul>
            </Panel>
          ) : null}
          {keys.length + links.length > 0 ? (
            <Panel title="Keys and links">
              <ul>
                {keys.map((key) => (
                  <li key={key.value} className="py-1">
                    <code className="font-mono font-semibold">{key.value}</code> <span className="text-soft">for {key.from}</span>
                  </li>
                ))}
                {links.map((link) => (
                  <li key={link.url} className="py-1">
                    {link.words} <span className="text-soft">for {link.from}</span>
                  </li>
                ))}
              </ul>
            </Panel>
          ) : null}
          <Notes order={order} timeZone={timeZone} />
          <Panel title="Story">
            <Story story={order.story} timeZone={timeZone} />
          </Panel>
        </div>
      </div>
      {isEditing ? <AddressDialog order={order} onClose={() => setEditing(false)} /> : null}
      {isRefunding ? <RefundDialog order={order} onClose={() => setRefunding(false)} /> : null}
    </Page>
  );
}
