import type { Condition } from '@ruta/core/conditions';
import type { Behind, Report, ReportQuery } from '@ruta/core/reports';
import type { SpendImport, SpendReport } from '@ruta/core/spend';
import { api, withQuery } from '../base/api';

/** What a report is asked, with its filter as a condition. */
export type ReportAsk = Omit<ReportQuery, 'filter'> & { filter?: Condition | undefined };

/** The same as it stands in an address. */
export const askedOf = ({ filter, ...ask }: ReportAsk): object => ({ ...ask, filter: filter ? JSON.stringify(filter) : undefined });

interface Rebuild {
  isRunning: boolean;
  done: number;
  of: number;
  rebuiltAt: number | null;
}

export const insightApi = api.injectEndpoints({
  endpoints: (build) => ({
    report: build.query<Report, ReportAsk>({ query: (ask) => withQuery('/reports', askedOf(ask)), providesTags: ['Report'] }),
    behind: build.query<Behind, ReportAsk & { key: string }>({ query: ({ key, ...ask }) => withQuery('/reports/behind', { ...askedOf(ask), key }) }),
    importSpend: build.mutation<SpendReport, SpendImport>({
      query: (body) => ({ url: '/spend/import', method: 'POST', body }),
      invalidatesTags: (report) => (report?.applied ? ['Report'] : []),
    }),
    rebuildState: build.query<Rebuild, void>({ query: () => '/reports/rebuild', providesTags: ['Report'] }),
    rebuild: build.mutation<Rebuild, void>({ query: () => ({ url: '/reports/rebuild', method: 'POST' }), invalidatesTags: ['Report'] }),
  }),
});
