import { CountSchema, ListQuerySchema } from '@ruta/core/lists';
import {
  OrderPartnerSchema,
  PaidOutSchema,
  PartnerPageSchema,
  PartnerRowSchema,
  PartnerSchema,
  PayOutSchema,
  PayoutsSchema,
  ProgramSchema,
  ProgramViewSchema,
  StatementSchema,
} from '@ruta/core/partners';
import type { Api } from '../base/api';
import { refuseOlder, revisionOf } from '../base/revision';
import { sendFile } from '../base/sendFile';
import type { Services } from '../base/services';
import { payOut, payoutCsv, payoutsOf, statementCsv, statementOf } from './payouts';
import { countPartners, listPartners, loadPartner, loadProgram, partnerOfOrder, savePartner, saveProgram } from './store';

/** Partners: who they are, on what terms they earn, and what they are paid. */
export function partnerRoutes(api: Api, services: Services): void {
  const { db } = services;
  const programView = () => {
    const program = loadProgram(db);
    return { program, revision: revisionOf(program) };
  };
  api.on({ method: 'get', path: '/partners', summary: 'Partners with what they earned', query: ListQuerySchema, response: PartnerPageSchema }, ({ query }) =>
    listPartners(services, query),
  );
  api.on({ method: 'get', path: '/partners/count', summary: 'How many partners a list has', query: ListQuerySchema, response: CountSchema }, ({ query }) => ({
    count: countPartners(db, query),
  }));
  api.on({ method: 'get', path: '/partners/program', summary: 'The terms on which partners earn', response: ProgramViewSchema }, programView);
  api.on(
    { method: 'put', path: '/partners/program', summary: 'Change these terms', body: ProgramSchema, response: ProgramViewSchema, role: 'owner' },
    ({ body, request }) => {
      refuseOlder(request, 'These terms were', programView().revision);
      saveProgram(services, body);
      return programView();
    },
  );
  api.on({ method: 'get', path: '/partners/payouts', summary: 'What is due to partners, and what was paid out', response: PayoutsSchema }, () =>
    payoutsOf(services),
  );
  api.on(
    { method: 'post', path: '/partners/payouts', summary: 'Count what is due as paid out', body: PayOutSchema, response: PaidOutSchema, role: 'owner' },
    ({ body }) => payOut(services, body.total),
  );
  api.on({ method: 'get', path: '/partners/payouts/:id/export', summary: 'A payout as CSV' }, ({ params, response }) =>
    sendFile(response, `payout-${params.id}.csv`, payoutCsv(services, params.id ?? '')),
  );
  api.on({ method: 'get', path: '/orders/:id/partner', summary: 'Who brought the buyer of an order', response: OrderPartnerSchema }, ({ params }) =>
    partnerOfOrder(db, params.id ?? ''),
  );
  api.on({ method: 'post', path: '/partners', summary: 'Add a partner', body: PartnerSchema, response: PartnerRowSchema, role: 'owner' }, ({ body }) =>
    savePartner(services, null, body),
  );
  api.on({ method: 'get', path: '/partners/:id', summary: 'One partner with what they earned', response: StatementSchema }, ({ params }) =>
    statementOf(services, params.id ?? ''),
  );
  api.on(
    { method: 'put', path: '/partners/:id', summary: 'Change a partner', body: PartnerSchema, response: PartnerRowSchema, role: 'owner' },
    ({ params, body, request }) => {
      refuseOlder(request, 'This partner was', loadPartner(services, params.id ?? '').revision);
      return savePartner(services, params.id ?? '', body);
    },
  );
  api.on({ method: 'get', path: '/partners/:id/export', summary: 'A partner’s statement as CSV' }, ({ params, response }) =>
    sendFile(response, `statement-${params.id}.csv`, statementCsv(services, params.id ?? '')),
  );
}
