import { APPOINTMENT_LISTS, type AppointmentList, type AppointmentRow, momentWords } from '@ruta/core/appointments';
import { Link, useSearchParams } from 'react-router';
import { formatClock, formatTime } from '../base/format';
import { type Column, DataTable } from '../lists/DataTable';
import { useListQuery } from '../lists/useListQuery';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Badge, Empty, Page, Waiting } from '../ui/Page';
import { contactsApi } from './api';
import { CancelAppointment } from './CancelAppointment';

const LISTS: Record<AppointmentList, string> = { upcoming: 'To come', past: 'Over', cancelled: 'Cancelled' };
const NOTHING: Record<AppointmentList, string> = {
  upcoming: 'No appointment to come has these words in name, address or subject.',
  past: 'No appointment that is over has these words.',
  cancelled: 'No cancelled appointment has these words.',
};
const nameOf = ({ firstName, lastName, email }: AppointmentRow) => `${firstName} ${lastName}`.trim() || email;

const columnsFor = (timeZone: string, list: AppointmentList): Array<Column<AppointmentRow>> => [
  {
    id: 'start',
    header: 'When',
    sort: 'start',
    cell: (row) => (
      <Link to={`/sales/contacts/${row.contactId}`} className="font-semibold hover:underline">
        {momentWords(row.startAt, timeZone)}–{formatClock(row.endAt, timeZone)}
      </Link>
    ),
  },
  { id: 'who', header: 'With', cell: (row) => nameOf(row) },
  {
    id: 'subject',
    wide: true,
    header: 'About',
    cell: (row) => (
      <>
        {row.subject} {row.mode === 'test' ? <Badge tone="info">Test</Badge> : null}
      </>
    ),
  },
  { id: 'place', wide: true, header: 'Where', cell: (row) => row.place || '–' },
  {
    id: 'state',
    header: list === 'cancelled' ? 'Cancelled' : '',
    end: true,
    cell: (row) =>
      list === 'upcoming' ? (
        <CancelAppointment id={row.id} what={`${nameOf(row)}, ${momentWords(row.startAt, timeZone)}`} />
      ) : row.cancelledAt === null ? null : (
        formatTime(row.cancelledAt, timeZone)
      ),
  },
];

/** Every time that was booked on pages: what is to come first, soonest first. */
export function AppointmentsPage() {
  const query = useListQuery();
  const [params, setParams] = useSearchParams();
  const list = APPOINTMENT_LISTS.find((each) => each === params.get('list')) ?? 'upcoming';
  const soonestFirst = list === 'upcoming' && !params.has('direction');
  const ask = { ...query.ask, list, sort: 'start', ...(soonestFirst ? { direction: 'asc' as const } : {}) };
  const found = contactsApi.useAppointmentsInfiniteQuery(ask);
  const { data: counted } = contactsApi.useAppointmentCountQuery({ list, search: query.ask.search });
  const { data: shop } = shopApi.useShopQuery();
  const rows = useRows(found);
  if (!rows.rows || !shop) return <Waiting error={found.error} retry={found.refetch} />;
  return (
    <Page title="Appointments">
      {rows.rows.length === 0 && !query.ask.search && list === 'upcoming' && !params.has('list') ? (
        <Empty title="Nothing booked yet">
          Put an appointment on a page: visitors choose one of your free times, and both get it in their calendars. It then stands here.{' '}
          <button type="button" className="font-semibold text-info underline" onClick={() => setParams({ list: 'past' })}>
            Look at those that are over
          </button>
        </Empty>
      ) : (
        <DataTable
          list={rows}
          query={{ ...query, ask }}
          count={counted?.count}
          columns={columnsFor(shop.settings.timeZone, list)}
          label="Appointments"
          idOf={(row) => row.id}
          hrefOf={(row) => `/sales/contacts/${row.contactId}`}
          searchLabel="Search appointments"
          nothingFound={query.ask.search ? NOTHING[list] : 'There are none.'}
          tools={
            <select
              aria-label="Which appointments"
              className="rounded-md border border-[#98a5a1] bg-white px-2 min-h-9.5"
              value={list}
              onChange={(event) => setParams({ list: event.target.value }, { replace: true })}
            >
              {APPOINTMENT_LISTS.map((each) => (
                <option key={each} value={each}>
                  {LISTS[each]}
                </option>
              ))}
            </select>
          }
        />
      )}
    </Page>
  );
}
