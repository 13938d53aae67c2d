import type { DraftSchema } from '@ruta/core/page';
import type { z } from 'zod';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { sharedRefusal } from '../funnel/sharedOffers';
import { loadStep, saveDraft } from '../funnel/store';
import { spreadSections } from './ownSections';

/** Saves a page's draft. @throws Refusal 409 if it was changed in another window since it was loaded */
export function savePage(services: Pick<Services, 'db' | 'clock'>, stepId: string, draft: z.infer<typeof DraftSchema>): number {
  const { db, clock } = services;
  const { sharedFrom } = loadStep(db, stepId);
  if (sharedFrom) throw sharedRefusal(db, sharedFrom);
  const revision = db.transaction((tx) => {
    const saved = saveDraft(tx, stepId, draft.revision, draft.page, clock.now());
    if (saved !== undefined) spreadSections(tx, services, stepId, draft.page);
    return saved;
  });
  if (revision !== undefined) return revision;
  throw new Refusal(409, 'This page was changed in another window. Reload to see that version.');
}
