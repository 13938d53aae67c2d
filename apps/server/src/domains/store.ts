import { randomBytes } from 'node:crypto';
import { isIP } from 'node:net';
import { type Domain, type NewDomain, recordsFor, type SiteTarget } from '@ruta/core/domains';
import { and, asc, eq, isNotNull, sql } from 'drizzle-orm';
import { builtOnce, type Db } from '../base/db';
import { newId } from '../base/ids';
import { fieldRefusal, notFound } from '../base/problem';
import type { Services } from '../base/services';
import { domains } from './tables';

export type DomainRow = typeof domains.$inferSelect;
type Needs = Pick<Services, 'db' | 'clock' | 'config' | 'changes'>;

const given = (name: string) => sql.placeholder(name);
const byHost = builtOnce((db) =>
  db
    .select()
    .from(domains)
    .where(and(eq(domains.host, given('host')), eq(domains.state, 'ready')))
    .prepare(),
);
const ofFunnel = builtOnce((db) =>
  db
    .select({ host: domains.host })
    .from(domains)
    .where(and(eq(domains.funnelId, given('funnelId')), eq(domains.state, 'ready')))
    .orderBy(asc(domains.createdAt))
    .limit(1)
    .prepare(),
);

/** The domain of a name that leads here; undefined for any other name. */
/** The domains that led here once and do not any more. */
export const strayedDomains = (db: Db): DomainRow[] =>
  db
    .select()
    .from(domains)
    .where(and(eq(domains.state, 'waiting'), isNotNull(domains.readyAt)))
    .all();

export const readyDomain = (db: Db, host: string): DomainRow | undefined => byHost(db).get({ host });

/** The first domain that opens on a funnel and leads here. */
export const hostOfFunnel = (db: Db, funnelId: string): string | undefined => ofFunnel(db).get({ funnelId })?.host;

/** Domains that are to open on a funnel and do not lead here yet. */
export const waitingHosts = (db: Db, funnelId: string): string[] =>
  db
    .select({ host: domains.host })
    .from(domains)
    .where(and(eq(domains.funnelId, funnelId), eq(domains.state, 'waiting')))
    .all()
    .map(({ host }) => host);

export const allDomains = (db: Db): DomainRow[] => db.select().from(domains).orderBy(asc(domains.createdAt), asc(domains.id)).all();

/** Where the public site is reached, as its own address says. */
export function siteTarget({ siteUrl }: Pick<Services['config'], 'siteUrl'>): SiteTarget {
  const { hostname } = new URL(siteUrl);
  const address = hostname.replace(/^\[|\]$/g, '');
  return isIP(address) ? { kind: 'address', address } : { kind: 'name', name: hostname };
}

/** The address of a host, with the scheme and port by which the public site is reached. */
export function baseOfHost({ siteUrl }: Pick<Services['config'], 'siteUrl'>, host: string): string {
  const { protocol, port } = new URL(siteUrl);
  return `${protocol}//${host}${port ? `:${port}` : ''}`;
}

export const domainView = ({ config }: Pick<Services, 'config'>, row: DomainRow): Domain => ({
  ...row,
  address: baseOfHost(config, row.host),
  records: recordsFor(row.host, row.token, siteTarget(config)),
});

/** Adds a domain. It opens nothing before it is seen to lead here. @throws Refusal at its field */
export function addDomain(services: Needs, { host, funnelId }: NewDomain): DomainRow {
  const { db, clock, config } = services;
  const taken = [config.siteUrl, config.studioUrl].map((url) => new URL(url).hostname);
  if (taken.includes(host)) throw fieldRefusal('host', 'The shop is reached under this name already. Choose another.');
  if (db.select().from(domains).where(eq(domains.host, host)).get()) throw fieldRefusal('host', 'This domain is in the list already.', 409);
  refuseUnknown(db, funnelId);
  const row: DomainRow = {
    id: newId(clock, 'domain'),
    host,
    funnelId,
    token: randomBytes(12).toString('hex'),
    state: 'waiting',
    problems: [],
    checkedAt: null,
    readyAt: null,
    createdAt: clock.now(),
  };
  db.insert(domains).values(row).run();
  return row;
}

function refuseUnknown(db: Db, funnelId: string | null): void {
  if (funnelId !== null && !db.get(sql`SELECT 1 FROM funnels WHERE id = ${funnelId}`))
    throw fieldRefusal('funnelId', 'This funnel is not there any more. Choose another.');
}

/** @throws Refusal 404 if there is no such domain */
export function loadDomain(db: Db, id: string): DomainRow {
  const row = db.select().from(domains).where(eq(domains.id, id)).get();
  if (!row) throw notFound('This domain');
  return row;
}

/** Lets a domain open on something else. */
export function changeDomain(services: Needs, id: string, funnelId: string | null): DomainRow {
  loadDomain(services.db, id);
  refuseUnknown(services.db, funnelId);
  services.db.update(domains).set({ funnelId }).where(eq(domains.id, id)).run();
  services.changes.announce();
  return loadDomain(services.db, id);
}

/** Takes a domain away; whoever opens it then is not known here. */
export function removeDomain(services: Needs, id: string): void {
  if (services.db.delete(domains).where(eq(domains.id, id)).run().changes === 0) throw notFound('This domain');
  services.changes.announce();
}
