import { CodeSchema } from '@ruta/core';
import { z } from 'zod';
import type { Api } from '../http/api';
import { sendFile } from '../http/sendFile';
import type { Services } from '../services';
import { archiveCode, listCodes, saveCode } from './store';
import { exportCodes, importCodes } from './transfer';

const CodeRowSchema = z.object({ id: z.string(), terms: CodeSchema, createdAt: z.int(), uses: z.int(), paid: z.int() });

const ImportSchema = z.object({ text: z.string().max(5_000_000, 'This file is over 5 MB.'), apply: z.boolean() });
const ReportSchema = z.object({
  added: z.int(),
  changed: z.int(),
  problems: z.array(z.object({ line: z.int(), column: z.string(), message: z.string() })),
  applied: z.boolean(),
});

/** Discount codes. */
export function codeRoutes(api: Api, services: Services): void {
  api.on({ method: 'get', path: '/codes', summary: 'Discount codes with what they brought', response: z.array(CodeRowSchema) }, () => listCodes(services.db));
  api.on({ method: 'post', path: '/codes', summary: 'Add a discount code', body: CodeSchema, response: CodeRowSchema }, ({ body }) =>
    saveCode(services, null, body),
  );
  api.on({ method: 'get', path: '/codes/export', summary: 'Discount codes as CSV' }, ({ response }) => sendFile(response, 'codes.csv', exportCodes(services)));
  api.on(
    { method: 'post', path: '/codes/import', summary: 'Import discount codes, or look first at what would happen', body: ImportSchema, response: ReportSchema },
    ({ body }) => importCodes(services, body.text, body.apply),
  );
  api.on({ method: 'put', path: '/codes/:id', summary: 'Change a discount code', body: CodeSchema, response: CodeRowSchema }, ({ params, body }) =>
    saveCode(services, params.id ?? '', body),
  );
  api.on({ method: 'delete', path: '/codes/:id', summary: 'Archive a discount code', response: z.object({ archived: z.boolean() }) }, ({ params }) => {
    archiveCode(services, params.id ?? '');
    return { archived: true };
  });
}
