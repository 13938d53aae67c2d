import { type ConsentProofs, ConsentProofsSchema } from '@ruta/core/shop';
import { desc, gte, sql } from 'drizzle-orm';
import type { Api } from '../base/api';
import { sendFile } from '../base/sendFile';
import type { Services } from '../base/services';
import { consents, consentWordings } from '../tracking/tables';
import { proofs } from './consentsFile';

const DAY_MS = 24 * 60 * 60 * 1000;
const LATEST = 50;

/** The newest answers, the wordings they answered, and how many agreed in the last 30 days. */
function consentProofs({ db, clock }: Pick<Services, 'db' | 'clock'>): ConsentProofs {
  const count = db
    .select({
      answers: sql<number>`count(*)`,
      statistics: sql<number>`coalesce(sum(${consents.statistics}), 0)`,
      marketing: sql<number>`coalesce(sum(${consents.marketing}), 0)`,
    })
    .from(consents)
    .where(gte(consents.at, clock.now() - 30 * DAY_MS))
    .get();
  return {
    wordings: db.select().from(consentWordings).orderBy(desc(consentWordings.at)).all(),
    latest: proofs({ db }, LATEST),
    count: count ?? { answers: 0, statistics: 0, marketing: 0 },
  };
}

/** Answers to the question for consent, as proof. */
export function consentRoutes(api: Api, services: Services): void {
  api.on({ method: 'get', path: '/consents', summary: 'Answers to the question for consent', response: ConsentProofsSchema }, () => consentProofs(services));
  api.on({ method: 'get', path: '/consents/export', summary: 'Every answer to the question for consent as CSV' }, async ({ response }) => {
    sendFile(response, 'consents.csv', await services.tasks.run<string>('consentsCsv', null));
  });
}
