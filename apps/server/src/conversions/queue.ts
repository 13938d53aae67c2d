import { isAsked, isMoment, toldWords } from '@ruta/core/conversions';
import type { TrackedEvent } from '@ruta/core/tracking';
import { conversion } from '../base/outbox/kinds/conversion';
import { enqueue } from '../base/outbox/outbox';
import type { Services } from '../base/services';
import { addMessage, outboxKey } from '../messages/store';
import type { Recorder } from '../tracking/recorder';
import { liveRules } from './liveRules';
import type { ConversionRuleRow } from './tables';

export const NO_CONSENT = 'Not sent: who did this has not agreed to marketing. It counts in your own figures.';

/** Whether a rule asks for an event. What happens in test mode is told only where it counts for nothing. */
function asks({ moment, formIds, funnelId, testCode }: ConversionRuleRow, event: TrackedEvent): boolean {
  if (!isMoment(moment, event) || (event.mode === 'test' && !testCode)) return false;
  if (funnelId !== null && funnelId !== event.funnelId) return false;
  return formIds.length === 0 || formIds.includes(String(event.data.form ?? ''));
}

/**
 * Queues a conversion for every rule that asks for an event, in the transaction in which the event is recorded. Without
 * consent nothing is sent, and the log says so.
 * @returns to be told of each recorded event
 */
export function queueConversions(services: Pick<Services, 'db' | 'clock'>): (event: TrackedEvent) => void {
  return (event) => {
    if (!isAsked(event.kind)) return;
    for (const rule of liveRules(services.db)) {
      if (!asks(rule, event)) continue;
      const id = addMessage(services, rule.id, event, event.mayTell ? null : NO_CONSENT);
      if (id && event.mayTell) {
        enqueue(services.db, services, conversion, { payload: { messageId: id, name: rule.name, event: rule.event }, idempotencyKey: outboxKey(id) });
      }
    }
  };
}

/** Has what only some rules need of a browser kept with its visitor, nothing of it where no rule needs it; and says what is told. */
export function keepWanted({ db }: Pick<Services, 'db'>, recorder: Recorder): void {
  recorder.wants = () => {
    const keys = liveRules(db).flatMap((rule) => rule.keys);
    return { address: keys.includes('address'), agent: keys.includes('agent') };
  };
  recorder.told = () => toldWords(liveRules(db));
}
