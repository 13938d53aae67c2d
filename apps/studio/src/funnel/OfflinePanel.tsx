import type { FunnelDetail } from '@ruta/core/checks';
import { OFFLINE_WORDS, type OfflinePage } from '@ruta/core/funnel';
import { useState } from 'react';
import { formatTime } from '../base/format';
import { Button } from '../ui/Button';
import { FormProblem, SelectField, TextArea, TextField } from '../ui/Field';
import { refusedAt, refusedWhole } from '../ui/fieldError';
import { Panel } from '../ui/Page';
import { funnelApi } from './api';
import { OtherStepChooser } from './StepChooser';

const BEGINNINGS: { [Kind in OfflinePage['kind']]: Extract<OfflinePage, { kind: Kind }> } = {
  message: { kind: 'message', words: '' },
  step: { kind: 'step', stepId: '' },
  address: { kind: 'address', url: '' },
};

/** Takes a published funnel offline, with what its visitors see instead, and puts it online again. */
export function OfflinePanel({ funnel, timeZone }: { funnel: FunnelDetail; timeZone: string }) {
  const [setOffline, { error, isLoading }] = funnelApi.useSetOfflineMutation();
  const [page, setPage] = useState<OfflinePage>(funnel.offline?.page ?? BEGINNINGS.message);
  const send = (next: OfflinePage | null) => void setOffline({ id: funnel.id, page: next });
  const running = funnel.tests.filter(({ state }) => state === 'running').length;
  return (
    <Panel title={funnel.offline ? 'Offline' : 'Take offline'}>
      <div className="grid gap-3">
        <p className="text-soft">
          {funnel.offline
            ? `Offline since ${formatTime(funnel.offline.at, timeZone)}. Nobody can see or buy anything here; orders, their links and figures stay.`
            : `Visitors see the page you choose instead, from this moment. Orders, their links and figures stay.${running > 0 ? ' The running test ends.' : ''}`}
        </p>
        <SelectField label="Visitors see" value={page.kind} onChange={(event) => setPage(BEGINNINGS[event.target.value as OfflinePage['kind']])}>
          <option value="message">a message</option>
          <option value="step">a page of another funnel</option>
          <option value="address">another address</option>
        </SelectField>
        {page.kind === 'message' ? (
          <TextArea
            label="Message"
            hint={`Empty: “${OFFLINE_WORDS}”`}
            maxLength={400}
            value={page.words}
            onChange={(event) => setPage({ kind: 'message', words: event.target.value })}
          />
        ) : null}
        {page.kind === 'step' ? (
          <OtherStepChooser
            label="Page"
            value={page.stepId}
            exceptFunnelId={funnel.id}
            error={refusedAt(error, 'page.stepId')}
            onChange={(stepId) => setPage({ kind: 'step', stepId })}
          />
        ) : null}
        {page.kind === 'address' ? (
          <TextField
            label="Address"
            type="url"
            placeholder="https://"
            value={page.url}
            error={refusedAt(error, 'page.url')}
            onChange={(event) => setPage({ kind: 'address', url: event.target.value })}
          />
        ) : null}
        <FormProblem>{refusedWhole(error)}</FormProblem>
        <p className="flex flex-wrap gap-3">
          {funnel.offline ? (
            <>
              <Button look="main" disabled={isLoading} onClick={() => send(null)}>
                Put online again
              </Button>
              <Button disabled={isLoading} onClick={() => send(page)}>
                Change what visitors see
              </Button>
            </>
          ) : (
            <Button look="danger" disabled={isLoading} onClick={() => send(page)}>
              Take offline
            </Button>
          )}
        </p>
      </div>
    </Panel>
  );
}
