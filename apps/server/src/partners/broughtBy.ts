import { isSameMailbox } from '@ruta/core/partners';
import type { Services } from '../base/services';
import type { VisitorRow } from '../tracking/recorder';
import { findPartner, loadProgram } from './store';

const DAY_MS = 24 * 60 * 60 * 1000;

/**
 * The partner to whom an order is owed: the one by whose link its buyer came last, if that still counts. Nobody earns by
 * buying from themselves.
 * @returns their id; null for nobody
 */
export function broughtBy({ db, clock }: Pick<Services, 'db' | 'clock'>, visitor: Pick<VisitorRow, 'partner'> | null, email: string): string | null {
  const came = visitor?.partner;
  if (!came || came.at + loadProgram(db).linkDays * DAY_MS <= clock.now()) return null;
  const found = findPartner(db, came.id);
  return found?.document.isOn && !isSameMailbox(found.email, email) ? found.id : null;
}
