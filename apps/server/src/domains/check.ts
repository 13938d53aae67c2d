import { Resolver } from 'node:dns/promises';
import { domainProblems, type FoundNames, proofName } from '@ruta/core/domains';
import { eq } from 'drizzle-orm';
import type { Services } from '../base/services';
import { allDomains, type DomainRow, loadDomain, siteTarget } from './store';
import { domains } from './tables';

type Needs = Pick<Services, 'db' | 'clock' | 'config' | 'changes' | 'log'>;

const LOOK_MS = 4000;
/** What waits is looked at every few minutes; what leads here twice a day, since entries get lost. */
const WAITING_EVERY_MS = 5 * 60 * 1000;
const READY_EVERY_MS = 12 * 60 * 60 * 1000;

/** What is known of no such name is nothing; what nobody answered is not known. */
const NOTHING = new Set(['ENOTFOUND', 'ENODATA']);
const answered = <Value>(asked: Promise<Value[]>): Promise<Value[] | null> =>
  asked.catch((error: NodeJS.ErrnoException) => (NOTHING.has(error.code ?? '') ? [] : null));

/** Looks up what a domain's names say now. */
async function lookUp({ config }: Pick<Needs, 'config'>, host: string): Promise<FoundNames> {
  const resolver = new Resolver({ timeout: LOOK_MS, tries: 1 });
  if (config.nameServer) resolver.setServers([config.nameServer]);
  const target = siteTarget(config);
  const [texts, addresses, ours] = await Promise.all([
    answered(resolver.resolveTxt(proofName(host))),
    answered(resolver.resolve4(host)),
    target.kind === 'address' ? [target.address] : answered(resolver.resolve4(target.name)),
  ]);
  return { proofs: texts?.map((parts) => parts.join('').trim()) ?? null, addresses, ours };
}

/**
 * Looks whether a domain leads here. One that did and does not any more waits again, unless its names could not be looked
 * up just now.
 */
export async function checkDomain(services: Needs, id: string): Promise<DomainRow> {
  const { db, clock, config, changes } = services;
  const { host, token } = loadDomain(db, id);
  const found = await lookUp(services, host);
  const isKnown = found.proofs !== null && found.addresses !== null && found.ours !== null;
  const problems = domainProblems(host, token, siteTarget(config), found);
  const before = loadDomain(db, id).state;
  const state = isKnown ? (problems.length === 0 ? 'ready' : 'waiting') : before;
  const now = clock.now();
  db.update(domains)
    .set({ state, problems, checkedAt: now, ...(state === 'ready' ? { readyAt: now } : {}) })
    .where(eq(domains.id, id))
    .run();
  // Pages name their own addresses, which change with it.
  if (state !== before) changes.announce();
  return loadDomain(db, id);
}

/** Looks at the domains whose turn it is. */
export async function checkDomains(services: Needs): Promise<void> {
  const now = services.clock.now();
  for (const { id, state, checkedAt } of allDomains(services.db)) {
    if (checkedAt !== null && checkedAt + (state === 'ready' ? READY_EVERY_MS : WAITING_EVERY_MS) > now) continue;
    await checkDomain(services, id).catch((error: Error) => services.log.warn({ reason: error.message }, 'a domain could not be looked at'));
  }
}
