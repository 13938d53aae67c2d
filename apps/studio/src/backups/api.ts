import type { Backups } from '@ruta/core/backups';
import { api } from '../base/api';

export const backupsApi = api.injectEndpoints({
  endpoints: (build) => ({
    backups: build.query<Backups, void>({ query: () => '/backups', providesTags: ['Backup'] }),
    backUp: build.mutation<Backups, void>({ query: () => ({ url: '/backups', method: 'POST' }), invalidatesTags: ['Backup'] }),
  }),
});
