import type { TaskProgress } from '@ruta/core/tasks';
import { api } from './api';

/** What takes long on the server, while it is under way. */
export const taskApi = api.injectEndpoints({
  endpoints: (build) => ({
    taskProgress: build.query<TaskProgress, string>({ query: (id) => `/tasks/${id}` }),
    stopTask: build.mutation<{ stopped: boolean }, string>({ query: (id) => ({ url: `/tasks/${id}`, method: 'DELETE' }) }),
  }),
});
