import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { type ConversionRuleRow, conversionRules } from './tables';

const lastRead = new WeakMap<Db, ConversionRuleRow[]>();

/** The rules that are switched on, by database: they are wanted at every event and change seldom. */
export function liveRules(db: Db): ConversionRuleRow[] {
  let rules = lastRead.get(db);
  if (!rules) {
    rules = db.select().from(conversionRules).where(eq(conversionRules.isOn, true)).all();
    lastRead.set(db, rules);
  }
  return rules;
}

/** To be called when a rule has changed. */
export const forgetRules = (db: Db): boolean => lastRead.delete(db);
