import type { Today } from '@ruta/core/today';
import { api } from '../base/api';

export const todayApi = api.injectEndpoints({
  endpoints: (build) => ({ today: build.query<Today, void>({ query: () => '/today', providesTags: ['Today'] }) }),
});
