import type { IncomingMessage } from 'node:http';
import { domainOf } from '../domains/address';
import { type LiveServices, stepPath } from './live';
import { findFunnel, latestPublication } from './store';

/** What stands at the root of a domain: the first page of the funnel it opens on. Every other path is the same under every name. */
export function pathAsAsked(services: LiveServices, request: IncomingMessage, path: string): string {
  if (path !== '/') return path;
  const funnelId = domainOf(services, request)?.funnelId;
  if (funnelId && findFunnel(services.db, funnelId)?.offline) return `/${latestPublication(services.db, funnelId)?.snapshot.slug ?? ''}`;
  const publication = funnelId ? services.live.all().find((each) => each.funnelId === funnelId) : undefined;
  const entry = publication?.snapshot.graph.steps.find(({ id }) => id === publication.snapshot.graph.entryId);
  return publication && entry ? stepPath({ publication, step: entry }) : path;
}
