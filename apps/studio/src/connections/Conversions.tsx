import { CONVERSION_MOMENTS, type ConversionRule } from '@ruta/core/conversions';
import { Radio } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Badge, Panel } from '../ui/Page';
import { connectionsApi } from './api';
import { RemoveReceiver } from './RemoveReceiver';
import { standingWords } from './standingWords';

const ConversionDialog = lazy(() => import('./ConversionDialog'));
const MessageLog = lazy(() => import('./MessageLog'));

const POLL_MS = 5000;
const whereOf = ({ destination }: ConversionRule): string => (destination.kind === 'http' ? destination.url : `Skylark, pixel ${destination.pixelId}`);
const words = (rule: ConversionRule): string => `${CONVERSION_MOMENTS[rule.moment].words}, told as “${rule.event}” to ${whereOf(rule)}`;

/** What ad platforms and other programs are told of conversions, by the server and by pixels. */
export function Conversions() {
  const { data: rules = [], error } = connectionsApi.useConversionRulesQuery(undefined, { pollingInterval: POLL_MS });
  const { data: shop } = shopApi.useShopQuery();
  const [remove, removing] = connectionsApi.useRemoveConversionRuleMutation();
  const [editing, setEditing] = useState<ConversionRule | 'new' | null>(null);
  const [log, setLog] = useState<ConversionRule | null>(null);
  const timeZone = shop?.settings.timeZone ?? 'UTC';
  return (
    <Panel>
      <div className="flex items-start gap-4">
        <Radio size={26} className="mt-1" aria-hidden="true" />
        <div className="flex-1 min-w-0">
          <h2>Conversions</h2>
          <p className="text-soft mb-2">
            Tell ad platforms what their ads brought: from the server, so that no sale is lost to a blocked script, and from a pixel on your pages if you like.
            Both carry one id, so that each conversion is counted once.
          </p>
          <ul>
            {rules.map((rule) => (
              <li key={rule.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-2">
                <span className="flex-1 min-w-52 wrap-anywhere">
                  <strong>{rule.name}</strong> {rule.isOn ? null : <Badge tone="plain">Off</Badge>}{' '}
                  {rule.testCode ? <Badge tone="info">Test code {rule.testCode}</Badge> : null} {rule.failed > 0 ? <Badge tone="stop">Not taken</Badge> : null}
                  <span className="block text-soft">{words(rule)}</span>
                  <span className="block text-soft">
                    {standingWords(rule)}
                    {rule.last ? `. Last answer: ${rule.last.status ?? rule.last.answer ?? 'none'}, for an event of ${formatTime(rule.last.at, timeZone)}` : ''}
                  </span>
                </span>
                <Button look="quiet" aria-label={`Log of ${rule.name}`} onClick={() => setLog(rule)}>
                  Log
                </Button>
                <Button look="quiet" aria-label={`Change ${rule.name}`} onClick={() => setEditing(rule)}>
                  Change
                </Button>
                <RemoveReceiver name={rule.name} isLoading={removing.isLoading} error={removing.error} onRemove={() => void remove(rule.id)} />
              </li>
            ))}
          </ul>
          <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
          <p className="mt-3">
            <Button onClick={() => setEditing('new')}>Add a conversion</Button>
          </p>
        </div>
      </div>
      <Suspense>
        {editing ? <ConversionDialog rule={editing === 'new' ? null : editing} onClose={() => setEditing(null)} /> : null}
        {log ? (
          <MessageLog
            receiver={{ id: log.id, name: log.name, where: whereOf(log) }}
            eventWords={() => CONVERSION_MOMENTS[log.moment].words}
            withheld
            onClose={() => setLog(null)}
          />
        ) : null}
      </Suspense>
    </Panel>
  );
}
