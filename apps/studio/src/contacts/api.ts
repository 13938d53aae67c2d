import type { ContactDetail, ContactRow } from '@ruta/core/contacts';
import type { ListPage } from '@ruta/core/lists';
import { api, withQuery } from '../base/api';
import { type ListAsk, PAGING } from '../lists/list';

export const contactsApi = api.injectEndpoints({
  endpoints: (build) => ({
    contacts: build.infiniteQuery<ListPage<ContactRow>, ListAsk, string | null>({
      query: ({ queryArg, pageParam }) => withQuery('/contacts', { ...queryArg, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Contact'],
    }),
    contactCount: build.query<{ count: number }, ListAsk>({ query: (ask) => withQuery('/contacts/count', ask), providesTags: ['Contact'] }),
    contact: build.query<ContactDetail, string>({ query: (id) => `/contacts/${id}`, providesTags: ['Contact'] }),
    setTags: build.mutation<ContactDetail, { id: string; tags: string[] }>({
      query: ({ id, tags }) => ({ url: `/contacts/${id}/tags`, method: 'PUT', body: { tags } }),
      invalidatesTags: ['Contact'],
    }),
  }),
});
