import type { Message, MessageState } from '@ruta/core/messages';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { FormProblem, SelectField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Badge } from '../ui/Page';
import { connectionsApi } from './api';

const STATES = { sent: 'Taken', waiting: 'Still tried', failed: 'Not taken', withheld: 'Withheld' } as const satisfies Record<MessageState, string>;
const TONES = { sent: 'go', waiting: 'info', failed: 'stop', withheld: 'plain' } as const;
const POLL_MS = 3000;

interface Receiver {
  id: string;
  name: string;
  /** Where its messages go, in words. */
  where: string;
}

/**
 * What a receiver was told, what it answered, and a way to tell it once more.
 * @param eventWords the event a message tells of, in words
 * @param withheld whether messages can be withheld at all
 */
export default function MessageLog(props: { receiver: Receiver; eventWords: (event: string) => string; withheld?: boolean; onClose: () => void }) {
  const { receiver, eventWords, withheld = false, onClose } = props;
  const [state, setState] = useState<'all' | MessageState>('all');
  const { data: shop } = shopApi.useShopQuery();
  const found = connectionsApi.useMessagesInfiniteQuery({ receiverId: receiver.id, state }, { pollingInterval: POLL_MS });
  const list = useRows(found);
  const timeZone = shop?.settings.timeZone ?? 'UTC';
  return (
    <Modal open onClose={onClose} title={`Log of ${receiver.name}`} description={receiver.where} wide>
      <SelectField label="Messages" value={state} onChange={(event) => setState(event.target.value as typeof state)}>
        <option value="all">All</option>
        {Object.entries(STATES)
          .filter(([key]) => withheld || key !== 'withheld')
          .map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
      </SelectField>
      <FormProblem>{found.error ? problemOf(found.error).title : null}</FormProblem>
      {list.rows?.length === 0 ? <p className="text-soft mt-3">{state === 'all' ? 'Nothing was told yet.' : 'There are none.'}</p> : null}
      <ul className="mt-3">
        {list.rows?.map((message) => (
          <MessageRow key={message.id} message={message} words={eventWords(message.event)} timeZone={timeZone} />
        ))}
      </ul>
      {list.hasMore ? <Button onClick={list.loadMore}>Show more</Button> : null}
    </Modal>
  );
}

/** What the other side said, in words. */
function answerWords({ status, answer, attempts }: Message): string {
  const tries = attempts > 1 ? ` after ${attempts} tries` : '';
  if (attempts === 0) return answer ?? 'Not sent yet';
  return `${status === null ? (answer ?? 'Nobody answered') : `Answered ${status}`}${tries}`;
}

function MessageRow({ message, words, timeZone }: { message: Message; words: string; timeZone: string }) {
  const [again, { isLoading, error }] = connectionsApi.useSendMessageAgainMutation();
  const { id, at, state, status, answer, body, nextAt } = message;
  return (
    <li className="border-b border-line py-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Badge tone={TONES[state]}>{STATES[state]}</Badge>
        <span className="font-semibold">{words}</span>
        <span className="text-soft">{formatTime(at, timeZone)}</span>
        {state === 'withheld' ? null : (
          <Button look="quiet" className="ml-auto" disabled={isLoading} aria-label={`Send ${id} again`} onClick={() => void again(id)}>
            Send again
          </Button>
        )}
      </div>
      <p className="text-soft wrap-anywhere">
        {answerWords(message)}
        {nextAt !== null && message.attempts > 0 ? `; tried again ${formatTime(nextAt, timeZone)}` : ''}
      </p>
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
      {body ? (
        <details>
          <summary className="cursor-pointer text-soft">What was told{status !== null && answer ? ', and the answer' : ''}</summary>
          <pre className="mt-1 rounded-md bg-band px-3 py-2 font-mono text-sm whitespace-pre-wrap wrap-anywhere">
            {JSON.stringify(JSON.parse(body), null, 2)}
          </pre>
          {status !== null && answer ? (
            <pre className="mt-1 rounded-md border border-line px-3 py-2 font-mono text-sm whitespace-pre-wrap wrap-anywhere">{answer}</pre>
          ) : null}
        </details>
      ) : null}
    </li>
  );
}
