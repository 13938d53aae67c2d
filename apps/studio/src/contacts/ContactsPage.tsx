import type { Condition } from '@ruta/core/conditions';
import type { ContactRow } from '@ruta/core/contacts';
import { CONTACT_FACTS } from '@ruta/core/facts';
import { countryName, type Shop } from '@ruta/core/shop';
import { Download } from 'lucide-react';
import { Link } from 'react-router';
import { withQuery } from '../base/api';
import { formatAmount, formatCount, formatTime } from '../base/format';
import { ConditionFilter, ConditionWords, readCondition } from '../conditions/ConditionFilter';
import { type Column, DataTable } from '../lists/DataTable';
import { useFilters } from '../lists/useFilters';
import { useListQuery } from '../lists/useListQuery';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { ButtonAnchor } from '../ui/Button';
import { Empty, Page, Waiting } from '../ui/Page';
import { contactsApi } from './api';

const columnsFor = ({ currency, timeZone }: Shop): Array<Column<ContactRow>> => [
  {
    id: 'name',
    header: 'Name',
    cell: (contact) => (
      <Link to={`/sales/contacts/${contact.id}`} className="font-semibold hover:underline">
        {`${contact.firstName} ${contact.lastName}`.trim() || contact.email}
      </Link>
    ),
  },
  { id: 'email', wide: true, header: 'E-mail', sort: 'email', cell: (contact) => contact.email },
  { id: 'country', wide: true, header: 'Country', cell: (contact) => (contact.country ? countryName(contact.country) : '') },
  { id: 'createdAt', wide: true, header: 'Since', sort: 'created', cell: (contact) => formatTime(contact.createdAt, timeZone) },
  { id: 'orders', wide: true, header: 'Orders', sort: 'orders', end: true, cell: (contact) => contact.orders },
  {
    id: 'paid',
    header: 'Total spent',
    sort: 'paid',
    end: true,
    cell: (contact) => (contact.paid === 0 ? '–' : <span className="font-semibold">{formatAmount(contact.paid, currency)}</span>),
  },
];

export function ContactsPage() {
  const query = useListQuery();
  const filters = useFilters(['condition']);
  const condition = readCondition(filters.values.condition);
  // What cannot be read in an address filters nothing.
  const ask = { ...query.ask, ...(condition ? { condition: JSON.stringify(condition) } : {}) };
  const contacts = contactsApi.useContactsInfiniteQuery(ask);
  const { data: counted } = contactsApi.useContactCountQuery(ask);
  const { data: shop } = shopApi.useShopQuery();
  const list = useRows(contacts);
  if (!list.rows || !shop) return <Waiting error={contacts.error} retry={contacts.refetch} />;
  const { currency } = shop.settings;
  const isSome = condition !== undefined || Boolean(query.ask.search);
  return (
    <Page
      title="Contacts"
      actions={
        <ButtonAnchor href={withQuery('/api/contacts/export', ask)} download="contacts.csv">
          <Download size={16} aria-hidden="true" /> Export {counted && isSome ? formatCount(counted.count) : 'all'} as CSV
        </ButtonAnchor>
      }
    >
      {list.rows.length === 0 && !isSome ? (
        <Empty title="No contacts yet">Everyone who opts in or buys appears here, with their activity.</Empty>
      ) : (
        <>
          <div className="flex flex-wrap items-center gap-2 mb-3">
            <ConditionFilter
              title="Filter contacts"
              description="Shows contacts for whom all of this holds. Purchases are those in live mode; refunded products are not owned."
              value={condition}
              onChange={(next) => filters.change({ condition: next ? JSON.stringify(next) : '' })}
              currency={currency}
              some="Filtered"
              everybody="All contacts"
              facts={CONTACT_FACTS}
              counted={(asked) => <Counted condition={asked} />}
            />
            {condition ? (
              <span className="min-w-0">
                Whoever <ConditionWords condition={condition} currency={currency} />
              </span>
            ) : null}
          </div>
          <DataTable
            list={list}
            query={query}
            count={counted?.count}
            columns={columnsFor(shop.settings)}
            label="Contacts"
            idOf={(contact) => contact.id}
            hrefOf={(contact) => `/sales/contacts/${contact.id}`}
            searchLabel="Search contacts"
            nothingFound={condition ? 'No contacts match.' : 'No contacts match this name or email.'}
          />
        </>
      )}
    </Page>
  );
}

/** For how many contacts a condition holds. */
function Counted({ condition }: { condition: Condition }) {
  const { data, isFetching } = contactsApi.useContactCountQuery({ condition: JSON.stringify(condition) });
  if (!data) return <p className="text-soft">{isFetching ? 'Counting contacts.' : ''}</p>;
  return (
    <p className="text-soft figures" data-matches={data.count}>
      {data.count === 1 ? '1 contact matches.' : `${formatCount(data.count)} contacts match.`}
    </p>
  );
}
