import { TaskProgressSchema, TaskStoppedSchema } from '@ruta/core/tasks';
import type { Api } from './api';
import { notFound } from './problem';
import type { Services } from './services';

/** What takes long, while it is under way: how far it is, and a way to stop it. */
export function taskRoutes(api: Api, { tasks }: Pick<Services, 'tasks'>): void {
  api.on({ method: 'get', path: '/tasks/:id', summary: 'How far something is that takes long', response: TaskProgressSchema, role: 'editor' }, ({ params }) => {
    const progress = tasks.progress(params.id ?? '');
    if (!progress) throw notFound('Anything under way by this id');
    return progress;
  });
  api.on(
    { method: 'delete', path: '/tasks/:id', summary: 'Stop something that takes long, if it is not being written yet', response: TaskStoppedSchema },
    ({ params }) => ({ stopped: tasks.stop(params.id ?? '') }),
  );
}
