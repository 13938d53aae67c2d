import type { AppointmentList, AppointmentRow } from '@ruta/core/appointments';
import type { ContactDetail, ContactRow, LeadQuality } from '@ruta/core/contacts';
import type { ListPage } from '@ruta/core/lists';
import { api, withQuery } from '../base/api';
import { type ListAsk, PAGING } from '../lists/list';

/** What the list of contacts is asked for: with a condition as JSON, only those for whom it holds. */
type ContactAsk = ListAsk & { condition?: string };

export const contactsApi = api.injectEndpoints({
  endpoints: (build) => ({
    contacts: build.infiniteQuery<ListPage<ContactRow>, ContactAsk, string | null>({
      query: ({ queryArg, pageParam }) => withQuery('/contacts', { ...queryArg, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Contact'],
    }),
    contactCount: build.query<{ count: number }, ContactAsk>({
      query: ({ search, condition }) => withQuery('/contacts/count', { search, condition }),
      providesTags: ['Contact'],
    }),
    contact: build.query<ContactDetail, string>({ query: (id) => `/contacts/${id}`, providesTags: ['Contact'] }),
    appointments: build.infiniteQuery<ListPage<AppointmentRow>, ListAsk & { list: AppointmentList }, string | null>({
      query: ({ queryArg, pageParam }) => withQuery('/appointments', { ...queryArg, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Contact'],
    }),
    appointmentCount: build.query<{ count: number }, ListAsk & { list: AppointmentList }>({
      query: (ask) => withQuery('/appointments/count', ask),
      providesTags: ['Contact'],
    }),
    cancelAppointment: build.mutation<AppointmentRow, string>({
      query: (id) => ({ url: `/appointments/${id}/cancel`, method: 'POST' }),
      invalidatesTags: ['Contact'],
    }),
    judgeLead: build.mutation<ContactDetail, { id: string; quality: LeadQuality | null }>({
      query: ({ id, quality }) => ({ url: `/contacts/${id}/quality`, method: 'PUT', body: { quality } }),
      invalidatesTags: ['Contact'],
    }),
    setTags: build.mutation<ContactDetail, { id: string; tags: string[] }>({
      query: ({ id, tags }) => ({ url: `/contacts/${id}/tags`, method: 'PUT', body: { tags } }),
      invalidatesTags: ['Contact'],
    }),
  }),
});
