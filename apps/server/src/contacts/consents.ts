import { writeCsv } from '@ruta/core/formats';
import { type ConsentProofs, ConsentProofsSchema, toLocalTime } from '@ruta/core/shop';
import { desc, eq, gte, sql } from 'drizzle-orm';
import type { Api } from '../base/api';
import { sendFile } from '../base/sendFile';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { consents, consentWordings, visitors } from '../tracking/tables';
import { contacts } from './tables';

const DAY_MS = 24 * 60 * 60 * 1000;
const LATEST = 50;

const PROOF = {
  id: consents.id,
  visitorId: consents.visitorId,
  at: consents.at,
  statistics: consents.statistics,
  marketing: consents.marketing,
  wording: consents.wording,
  page: consents.page,
  email: contacts.email,
};

/** Every answer that was given, newest first, with whose it is if they left an address since. */
function proofs({ db }: Pick<Services, 'db'>, limit?: number) {
  const query = db
    .select(PROOF)
    .from(consents)
    .leftJoin(visitors, eq(visitors.id, consents.visitorId))
    .leftJoin(contacts, eq(contacts.id, visitors.contactId))
    .orderBy(desc(consents.at), desc(consents.id));
  return limit === undefined ? query.all() : query.limit(limit).all();
}

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

/** Every answer as a file, with the words that were answered. */
function consentsCsv({ db }: Pick<Services, 'db'>): string {
  const { timeZone } = loadShop(db).settings;
  const wordings = new Map(
    db
      .select()
      .from(consentWordings)
      .all()
      .map(({ id, settings }) => [id, settings]),
  );
  const yes = (agreed: boolean) => (agreed ? 'yes' : 'no');
  return writeCsv(
    ['when', 'visitor', 'email', 'page', 'statistics', 'marketing', 'title', 'text'],
    proofs({ db }).map(({ at, visitorId, email, page, statistics, marketing, wording }) => [
      toLocalTime(at, timeZone),
      visitorId,
      email ?? '',
      page,
      yes(statistics),
      yes(marketing),
      wordings.get(wording)?.title ?? '',
      wordings.get(wording)?.text ?? '',
    ]),
  );
}

/** Answers to the question for consent, as proof. */
export function consentRoutes(api: Api, services: Services): void {
  api.on({ method: 'get', path: '/consents', summary: 'Answers to the question for consent', response: ConsentProofsSchema }, () => consentProofs(services));
  api.on({ method: 'get', path: '/consents/export', summary: 'Every answer to the question for consent as CSV' }, ({ response }) => {
    sendFile(response, 'consents.csv', consentsCsv(services));
  });
}
