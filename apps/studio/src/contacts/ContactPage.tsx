import type { ContactDetail, LeadQuality } from '@ruta/core/contacts';
import { wordsAtCommas } from '@ruta/core/formats';
import { formatMoney } from '@ruta/core/money';
import { countryName } from '@ruta/core/shop';
import { ArrowLeft } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { useRows } from '../lists/useRows';
import { ordersApi } from '../orders/api';
import { shopApi } from '../shop/api';
import { Story } from '../tracking/Story';
import { Button } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { Badge, Page, Panel, Waiting } from '../ui/Page';
import { contactsApi } from './api';
import { CancelAppointment } from './CancelAppointment';

const QUALITIES = { good: 'Good', poor: 'Poor' } as const;

/** How a lead turned out; platforms that asked to hear of it are told. */
function Quality({ contact }: { contact: ContactDetail }) {
  const [judge, { error, isLoading }] = contactsApi.useJudgeLeadMutation();
  return (
    <fieldset className="mt-3">
      <legend className="font-semibold mb-1">This lead is</legend>
      <div className="flex flex-wrap gap-2">
        {(Object.keys(QUALITIES) as LeadQuality[]).map((quality) => (
          <Button
            key={quality}
            look={contact.quality === quality ? 'main' : 'plain'}
            aria-pressed={contact.quality === quality}
            disabled={isLoading}
            onClick={() => void judge({ id: contact.id, quality: contact.quality === quality ? null : quality })}
          >
            {QUALITIES[quality]}
          </Button>
        ))}
      </div>
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
    </fieldset>
  );
}

export function ContactPage() {
  const { contactId = '' } = useParams();
  const { data: contact, error, refetch } = contactsApi.useContactQuery(contactId);
  const orders = ordersApi.useOrdersInfiniteQuery({ contactId });
  const list = useRows(orders);
  const { data: shop } = shopApi.useShopQuery();
  if (!contact || !shop) return <Waiting error={error} retry={refetch} />;
  const timeZone = shop.settings.timeZone;
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
            {contact.campaign ? <p className="text-soft">Source: {Object.values(contact.campaign).join(', ')}</p> : null}
            <Quality contact={contact} />
            <Tags contact={contact} />
            {contact.answers.length > 0 ? (
              <dl className="mt-3 grid gap-2">
                {contact.answers.map(({ formId, field, label, value, at }) => (
                  <div key={`${formId}.${field}`}>
                    <dt className="text-soft">{label}</dt>
                    <dd className="font-semibold wrap-anywhere" title={formatTime(at, timeZone)}>
                      {value}
                    </dd>
                  </div>
                ))}
              </dl>
            ) : null}
            {contact.bookings.length > 0 ? (
              <>
                <h3 className="font-semibold mt-3">Appointments</h3>
                <ul>
                  {contact.bookings.map(({ id, subject, startAt, endAt, cancelledAt }) => (
                    <li key={id} className="flex flex-wrap items-center justify-between gap-2">
                      <span>
                        {formatTime(startAt, timeZone)}, {subject} {cancelledAt === null ? null : <Badge tone="plain">Cancelled</Badge>}
                      </span>
                      {cancelledAt === null && endAt > Date.now() ? <CancelAppointment id={id} what={`${subject}, ${formatTime(startAt, timeZone)}`} /> : null}
                    </li>
                  ))}
                </ul>
              </>
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

/** What is said of somebody in a word, typed with commas between. */
function Tags({ contact }: { contact: ContactDetail }) {
  const [save, { error, isLoading }] = contactsApi.useSetTagsMutation();
  const [typed, setTyped] = useState<string | null>(null);
  const kept = contact.tags.join(', ');
  if (typed === null) {
    return (
      <p className="mt-2 flex flex-wrap items-center gap-1.5">
        {contact.tags.map((tag) => (
          <span key={tag} className="rounded-sm bg-band px-2 py-0.5">
            {tag}
          </span>
        ))}
        <Button look="quiet" onClick={() => setTyped(kept)}>
          {contact.tags.length > 0 ? 'Change tags' : 'Add tags'}
        </Button>
      </p>
    );
  }
  return (
    <form
      className="mt-2 grid gap-2"
      onSubmit={async (event) => {
        event.preventDefault();
        const done = await save({ id: contact.id, tags: wordsAtCommas(typed) })
          .unwrap()
          .catch(() => null);
        if (done) setTyped(null);
      }}
    >
      <TextField label="Tags" hint="With commas between them." value={typed} onChange={(event) => setTyped(event.target.value)} />
      <FormProblem>{error ? (problemOf(error).errors[0]?.message ?? problemOf(error).title) : null}</FormProblem>
      <span className="flex gap-2">
        <Button look="main" type="submit" disabled={isLoading}>
          Save tags
        </Button>
        <Button look="quiet" onClick={() => setTyped(null)}>
          Leave them
        </Button>
      </span>
    </form>
  );
}
