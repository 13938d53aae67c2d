import type { Check } from './check';

/** A funnel that a domain is to open on, which does not lead here. */
export const domainWaits: Check = {
  check: 'domain-waits',
  severity: 'warning',
  find: ({ step, funnel }) =>
    step.id === funnel.graph.entryId
      ? funnel.waitingDomains.map((host) => `${host} does not lead here yet. See which entries are missing under Settings, Domains.`)
      : [],
};
