import { formatMoney } from '@ruta/core/money';
import { eventWords, type StoryEntry } from '@ruta/core/tracking';
import { and, isNotNull, type SQL } from 'drizzle-orm';
import { outboxWords } from '../base/outbox/registry';
import { outbox } from '../base/outbox/tables';
import type { Services } from '../base/services';
import { stepNames } from '../funnel/store';
import { loadShop } from '../shop/store';
import { events } from './tables';

const MOST = 500;

/** What happened, in order and in words: events, and the mails that were sent, each at its time. */
export function storyOf({ db }: Pick<Services, 'db'>, ofEvents: SQL | undefined, ofMails: SQL): StoryEntry[] {
  const { currency } = loadShop(db).settings;
  const happened = db
    .select({ at: events.at, kind: events.kind, data: events.data, stepId: events.stepId })
    .from(events)
    .where(ofEvents)
    .orderBy(events.at)
    .limit(MOST)
    .all();
  const names = stepNames(
    db,
    happened.flatMap((event) => event.stepId ?? []),
  );
  const money = (amount: number) => formatMoney(amount, currency);
  const story = happened.map(({ at, kind, data, stepId }) => ({ at, kind, words: eventWords(kind, data, { stop: names.get(stepId ?? '') ?? null, money }) }));
  const sent = db
    .select({ at: outbox.sentAt, kind: outbox.kind, payload: outbox.payload })
    .from(outbox)
    .where(and(ofMails, isNotNull(outbox.sentAt)))
    .limit(MOST)
    .all()
    .flatMap(({ at, kind, payload }) => {
      const words = kind === 'mail' ? outboxWords(kind, payload) : null;
      return words ? [{ at: at ?? 0, kind: 'mail.sent', words: `Mail to ${words.to}: ${words.subject}` }] : [];
    });
  return [...story, ...sent].sort((a, b) => a.at - b.at);
}
