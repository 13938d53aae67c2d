import { PartnerSchema, ProgramSchema } from '@ruta/core/partners';
import type { AllServices } from '../apps/server/src/openServices';
import { payOut, payoutsOf } from '../apps/server/src/partners/payouts';
import { savePartner, saveProgram } from '../apps/server/src/partners/store';

/** Two friends of the shop who send people, on the usual terms; one recruited the other, and gets more for the course. */
export function befriend(services: AllServices, courseId: string, funnelId: string): void {
  saveProgram(
    services,
    ProgramSchema.parse({ rules: [{ productId: null, priceId: null, rate: { kind: 'percent', percent: 25 } }], secondTierPercent: 5, holdingDays: 30 }),
  );
  const marisol = savePartner(
    services,
    null,
    PartnerSchema.parse({
      name: 'Marisol’s Field Notes',
      email: 'marisol@fieldnotes.test',
      code: 'marisol',
      landingFunnelId: funnelId,
      rules: [{ productId: courseId, priceId: null, rate: { kind: 'percent', percent: 35 } }],
    }),
  );
  savePartner(
    services,
    null,
    PartnerSchema.parse({
      name: 'The Cloudy Club',
      email: 'treasurer@cloudyclub.test',
      code: 'cloudy-club',
      landingFunnelId: funnelId,
      recruitedBy: marisol.id,
    }),
  );
}

/** Pays out what is due, as somebody does at the end of a month. */
export function payPartners(services: AllServices): void {
  const { total } = payoutsOf(services);
  if (total > 0) payOut(services, total);
}
