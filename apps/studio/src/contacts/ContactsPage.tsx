import type { ContactRow } from '@ruta/core/contacts';
import { countryName, type Shop } from '@ruta/core/shop';
import { Download } from 'lucide-react';
import { Link } from 'react-router';
import { formatAmount, formatTime } from '../base/format';
import { type Column, DataTable } from '../lists/DataTable';
import { useListQuery } from '../lists/useListQuery';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
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
    header: 'Paid',
    sort: 'paid',
    end: true,
    cell: (contact) => (contact.paid === 0 ? '–' : <span className="font-semibold">{formatAmount(contact.paid, currency)}</span>),
  },
];

export function ContactsPage() {
  const query = useListQuery();
  const contacts = contactsApi.useContactsInfiniteQuery(query.ask);
  const { data: counted } = contactsApi.useContactCountQuery({ search: query.ask.search });
  const { data: shop } = shopApi.useShopQuery();
  const list = useRows(contacts);
  if (!list.rows || !shop) return <Waiting error={contacts.error} retry={contacts.refetch} />;
  return (
    <Page
      title="Contacts"
      actions={
        <a
          href="/api/contacts/export"
          download
          className="inline-flex items-center gap-2 rounded-md border border-line bg-white px-3 min-h-9 font-semibold hover:border-soft"
        >
          <Download size={16} aria-hidden="true" /> Everybody as CSV
        </a>
      }
    >
      {list.rows.length === 0 && !query.ask.search ? (
        <Empty title="Nobody yet">Everybody who leaves an address or buys stands here, with all they did.</Empty>
      ) : (
        <DataTable
          list={list}
          query={query}
          count={counted?.count}
          columns={columnsFor(shop.settings)}
          label="Contacts"
          idOf={(contact) => contact.id}
          hrefOf={(contact) => `/sales/contacts/${contact.id}`}
          searchLabel="Search contacts"
          nothingFound="Nobody has these words in name or address."
        />
      )}
    </Page>
  );
}
