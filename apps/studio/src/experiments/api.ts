import type { ExperimentPictures, ExperimentRow, ExperimentSettings, ExperimentView } from '@ruta/core/experiments';
import { api, withQuery } from '../base/api';

/** What visitors see may be another by it, and what of a funnel is under test. */
const CHANGED = ['Experiment', 'Funnel', 'FunnelState', 'Today'] as const;

export const experimentsApi = api.injectEndpoints({
  endpoints: (build) => ({
    experiments: build.query<ExperimentRow[], { search: string; funnelId?: string }>({
      query: (asked) => withQuery('/experiments', asked),
      providesTags: ['Experiment'],
    }),
    experiment: build.query<ExperimentView, string>({ query: (id) => `/experiments/${id}`, providesTags: ['Experiment'] }),
    experimentPictures: build.query<ExperimentPictures, string>({ query: (id) => `/experiments/${id}/pictures`, providesTags: ['Experiment'] }),
    changeExperiment: build.mutation<ExperimentView, { id: string; begun: string; settings: ExperimentSettings }>({
      query: ({ id, begun, settings }) => ({ url: `/experiments/${id}`, method: 'PUT', body: settings, headers: { 'if-match': begun } }),
      invalidatesTags: CHANGED,
    }),
    removeExperiment: build.mutation<unknown, string>({ query: (id) => ({ url: `/experiments/${id}`, method: 'DELETE' }), invalidatesTags: CHANGED }),
    startExperiment: build.mutation<ExperimentView, string>({
      query: (id) => ({ url: `/experiments/${id}/start`, method: 'POST', body: {} }),
      invalidatesTags: CHANGED,
    }),
    endExperiment: build.mutation<ExperimentView, { id: string; put: string | null }>({
      query: ({ id, put }) => ({ url: `/experiments/${id}/end`, method: 'POST', body: { put } }),
      invalidatesTags: CHANGED,
    }),
    keepLearned: build.mutation<ExperimentView, { id: string; learned: string }>({
      query: ({ id, learned }) => ({ url: `/experiments/${id}/learned`, method: 'PUT', body: { learned } }),
      invalidatesTags: ['Experiment'],
    }),
  }),
});
