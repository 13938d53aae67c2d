import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { newId } from '../base/ids';
import type { course } from '../base/outbox/kinds/course';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { connections } from '../connections/tables';
import { loadShop } from '../shop/store';

function schoolOf({ db, secrets }: Pick<Services, 'db' | 'secrets'>): { school: string; token: string } | undefined {
  const row = db.select().from(connections).where(eq(connections.provider, 'studyporch')).get();
  return row && { school: row.account, token: secrets.decrypt(row.secrets) };
}

/** Whether the course host is connected. */
export function studyporchStatus(services: Pick<Services, 'db' | 'secrets' | 'config'>) {
  const school = schoolOf(services);
  return { provider: 'studyporch', connected: school !== undefined, account: school?.school ?? null, reachable: services.config.standinsUrl !== null };
}

/** Opens a school at the course host. Doing it again changes nothing. */
export async function connectStudyporch(services: Services) {
  const { config, db, secrets, clock } = services;
  if (schoolOf(services)) return studyporchStatus(services);
  if (!config.standinsUrl) throw new Refusal(409, 'The simulated services are switched off on this installation.');
  const response = await fetch(`${config.standinsUrl}/studyporch/v1/schools`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: loadShop(db).settings.name }),
    signal: AbortSignal.timeout(config.providerTimeoutMs),
  }).catch(() => null);
  if (!response?.ok) throw new Refusal(502, 'Studyporch cannot be reached. Try again in a minute.');
  const school = z.object({ id: z.string(), token: z.string() }).parse(await response.json());
  db.insert(connections)
    .values({
      id: newId(clock, 'connection'),
      provider: 'studyporch',
      account: school.id,
      publicKey: '',
      secrets: secrets.encrypt(school.token),
      createdAt: clock.now(),
    })
    .onConflictDoNothing()
    .run();
  return studyporchStatus(services);
}

/** Gives somebody access to a course. The host knows who is enrolled already, so that doing it twice is once. @throws Error if it did not work */
export async function enrol(services: Services, enrolment: z.infer<typeof course.payload>): Promise<void> {
  const school = schoolOf(services);
  const { standinsUrl, providerTimeoutMs } = services.config;
  if (!school || !standinsUrl) throw new Error('Studyporch is not connected. Connect it under Connections.');
  const response = await fetch(`${standinsUrl}/studyporch/v1/enrolments`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', authorization: `Bearer ${school.token}` },
    body: JSON.stringify(enrolment),
    signal: AbortSignal.timeout(providerTimeoutMs),
  });
  if (!response.ok) throw new Error(`Studyporch answered ${response.status}.`);
}
