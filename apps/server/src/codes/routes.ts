import { ArchivedSchema, type ImportReport, ImportReportSchema } from '@ruta/core/catalog';
import { CodeImportSchema, CodeListQuerySchema, CodePageSchema, CodeRowSchema, CodeSchema } from '@ruta/core/codes';
import { CountSchema } from '@ruta/core/lists';
import type { Api } from '../base/api';
import { refuseOlder } from '../base/revision';
import { sendFile } from '../base/sendFile';
import type { Services } from '../base/services';
import { archiveCode, countCodes, listCodes, loadCode, saveCode } from './store';

/** Discount codes. */
export function codeRoutes(api: Api, services: Services): void {
  const { db } = services;
  api.on(
    { method: 'get', path: '/codes', summary: 'Discount codes with what they brought', query: CodeListQuerySchema, response: CodePageSchema },
    ({ query }) => listCodes(db, query),
  );
  api.on({ method: 'get', path: '/codes/count', summary: 'How many codes a list has', query: CodeListQuerySchema, response: CountSchema }, ({ query }) => ({
    count: countCodes(db, query),
  }));
  api.on({ method: 'post', path: '/codes', summary: 'Add a discount code', body: CodeSchema, response: CodeRowSchema }, ({ body }) =>
    saveCode(services, null, body),
  );
  api.on({ method: 'get', path: '/codes/export', summary: 'Discount codes as CSV' }, async ({ response }) =>
    sendFile(response, 'codes.csv', await services.tasks.run<string>('exportCodes', null)),
  );
  api.on(
    {
      method: 'post',
      path: '/codes/import',
      summary: 'Import discount codes, or look first at what would happen',
      body: CodeImportSchema,
      response: ImportReportSchema,
    },
    ({ body }) => services.tasks.run<ImportReport>('importCodes', body, body.task),
  );
  api.on({ method: 'get', path: '/codes/:id', summary: 'One discount code', response: CodeRowSchema }, ({ params }) => loadCode(db, params.id ?? ''));
  api.on({ method: 'put', path: '/codes/:id', summary: 'Change a discount code', body: CodeSchema, response: CodeRowSchema }, ({ params, body, request }) => {
    refuseOlder(request, 'This code was', loadCode(db, params.id ?? '').revision);
    return saveCode(services, params.id ?? '', body);
  });
  api.on({ method: 'delete', path: '/codes/:id', summary: 'Archive a discount code', response: ArchivedSchema }, ({ params }) => {
    archiveCode(services, params.id ?? '');
    return { archived: true };
  });
}
