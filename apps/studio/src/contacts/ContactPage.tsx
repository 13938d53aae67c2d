import { formatMoney } from '@ruta/core/money';
import { countryName } from '@ruta/core/shop';
import { ArrowLeft } from 'lucide-react';
import { Link, useParams } from 'react-router';
import { formatTime } from '../base/format';
import { useRows } from '../lists/useRows';
import { ordersApi } from '../orders/api';
import { shopApi } from '../shop/api';
import { Story } from '../tracking/Story';
import { Button } from '../ui/Button';
import { Page, Panel, Waiting } from '../ui/Page';
import { contactsApi } from './api';

export function ContactPage() {
  const { contactId = '' } = useParams();
  const { data: contact, error, refetch } = contactsApi.useContactQuery(contactId);
  const orders = ordersApi.useOrdersInfiniteQuery({ contactId });
  const list = useRows(orders);
  const { data: shop } = shopApi.useShopQuery();
  if (!contact || !shop) return <Waiting error={error} retry={refetch} />;
  const timeZone = shop.settings.timeZone;
  const answers = Object.entries(contact.answers);
  return (
    <Page title={`${contact.firstName} ${contact.lastName}`.trim() || contact.email}>
      <p className="mb-4">
        <Link to="/sales/contacts" className="inline-flex items-center gap-1.5 text-info underline">
          <ArrowLeft size={16} aria-hidden="true" /> All contacts
        </Link>
      </p>
      <div className="grid lg:grid-cols-2 gap-4 items-start">
        <div>
          <Panel title="Who">
            <p>{contact.email}</p>
            {contact.country ? <p className="text-soft">{countryName(contact.country)}</p> : null}
            <p className="text-soft">Contact since {formatTime(contact.createdAt, timeZone)}</p>
            {contact.campaign ? <p className="text-soft">Came from {Object.values(contact.campaign).join(', ')}</p> : null}
            {answers.length > 0 ? (
              <dl className="mt-3 grid gap-2">
                {answers.map(([question, answer]) => (
                  <div key={question}>
                    <dt className="text-soft">{question}</dt>
                    <dd className="font-semibold">{answer}</dd>
                  </div>
                ))}
              </dl>
            ) : null}
          </Panel>
          <Panel title="Orders">
            {list.rows?.length === 0 ? <p className="text-soft">None yet.</p> : null}
            <ul>
              {list.rows?.map((order) => (
                <li key={order.id} className="flex justify-between gap-3 border-b border-line last:border-0 py-2">
                  <span>
                    <Link to={`/sales/orders/${order.id}`} className="font-semibold text-info underline">
                      {order.number ?? 'Gift'}
                    </Link>{' '}
                    {order.goods}
                    <span className="block text-soft">{formatTime(order.paidAt, timeZone)}</span>
                  </span>
                  <span className="font-semibold figures">{order.total === 0 ? 'Free' : formatMoney(order.total, order.currency)}</span>
                </li>
              ))}
            </ul>
            {list.hasMore ? <Button onClick={list.loadMore}>Show more</Button> : null}
          </Panel>
        </div>
        <Panel title="Story">
          <Story story={contact.story} timeZone={timeZone} />
        </Panel>
      </div>
    </Page>
  );
}
