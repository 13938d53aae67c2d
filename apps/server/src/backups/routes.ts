import { BackupsSchema } from '@ruta/core/backups';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { backUpNow, backupsOf } from './job';

/** Backups as the studio shows them. They are put back from the command line, while the shop stands still. */
export function backupRoutes(api: Api, services: Services): void {
  api.on({ method: 'get', path: '/backups', summary: 'The backups there are', response: BackupsSchema, role: 'owner' }, () => backupsOf(services));
  api.on(
    { method: 'post', path: '/backups', summary: 'Begin a backup now; one that is being made already is the one', response: BackupsSchema, role: 'owner' },
    () => {
      void backUpNow(services);
      return backupsOf(services);
    },
  );
}
