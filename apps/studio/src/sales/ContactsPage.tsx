import { countryName } from '@ruta/core';
import { createColumnHelper } from '@tanstack/react-table';
import { Link } from 'react-router';
import { api, type ContactRow } from '../app/api';
import { formatAmount, formatTime } from '../app/format';
import { DataTable } from '../ui/DataTable';
import { Empty, Page, Waiting } from '../ui/Page';

const column = createColumnHelper<ContactRow>();
const columnsFor = (currency: string) => [
  column.accessor((contact) => `${contact.firstName} ${contact.lastName}`.trim() || contact.email, {
    id: 'name',
    header: 'Name',
    cell: ({ row, getValue }) => (
      <Link to={`/sales/contacts/${row.original.id}`} className="font-semibold hover:underline">
        {getValue()}
      </Link>
    ),
  }),
  column.accessor('email', { header: 'E-mail' }),
  column.accessor((contact) => (contact.country ? countryName(contact.country) : ''), { id: 'country', header: 'Country' }),
  column.accessor('createdAt', { header: 'Since', cell: ({ getValue }) => formatTime(getValue()) }),
  column.accessor('orders', { header: 'Orders' }),
  column.accessor('paid', {
    header: 'Paid',
    cell: ({ getValue }) => (getValue() === 0 ? '–' : <span className="font-semibold">{formatAmount(getValue(), currency)}</span>),
  }),
];

export function ContactsPage() {
  const { data: contacts, error, refetch } = api.useContactsQuery();
  const { data: shop } = api.useShopQuery();
  if (!contacts || !shop) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Contacts">
      {contacts.length === 0 ? (
        <Empty title="Nobody yet">Everybody who leaves an address or buys stands here, with all they did.</Empty>
      ) : (
        <DataTable
          rows={contacts}
          columns={columnsFor(shop.settings.currency) as never}
          endColumns={['orders', 'paid']}
          label="Contacts"
          hrefOf={(contact) => `/sales/contacts/${contact.id}`}
          searchLabel="Search contacts"
          nothingFound="Nobody has these words in name or address."
        />
      )}
    </Page>
  );
}
