import type { Domain } from '@ruta/core/domains';
import { Copy, ExternalLink, Plus } from 'lucide-react';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { openedAs } from '../base/openedAs';
import { funnelApi } from '../funnel/api';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button, ButtonAnchor } from '../ui/Button';
import { FormProblem, SelectField, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Badge, Empty, Page, Panel, Waiting } from '../ui/Page';
import { domainsApi } from './api';

type Named = Array<{ id: string; name: string }>;

/** Domains of the seller's own: what to enter for each, whether it leads here, and what it opens on. */
export function DomainsPage() {
  const { data: domains, error, refetch } = domainsApi.useDomainsQuery();
  const { data: shop } = shopApi.useShopQuery();
  const { rows: funnels = [] } = useRows(funnelApi.useFunnelsInfiniteQuery({ limit: 200, sort: 'name', direction: 'asc' }));
  const [adding, setAdding] = useState(false);
  if (!domains || !shop) return <Waiting error={error} retry={refetch} />;
  const add = (
    <Button look="main" onClick={() => setAdding(true)}>
      <Plus size={17} aria-hidden="true" /> Add a domain
    </Button>
  );
  return (
    <Page title="Domains" narrow actions={domains.length > 0 ? add : null}>
      <p className="text-soft mb-4">
        Your pages are reached at <span className="font-mono text-ink wrap-anywhere">{shop.siteUrl}</span>, and at every domain that leads here. Whoever goes
        from one to another stays the same visitor.
      </p>
      {domains.length === 0 ? (
        <Empty title="An address of your own" action={add}>
          A domain of yours, or a part of one such as shop.example.test, can open on a funnel. You make two entries where you bought it; here it says which.
        </Empty>
      ) : (
        domains.map((domain) => <DomainPanel key={domain.id} domain={domain} funnels={funnels} timeZone={shop.settings.timeZone} />)
      )}
      {adding ? <AddDomain funnels={funnels} onClose={() => setAdding(false)} /> : null}
    </Page>
  );
}

function DomainPanel({ domain, funnels, timeZone }: { domain: Domain; funnels: Named; timeZone: string }) {
  const [check, { isLoading }] = domainsApi.useCheckDomainMutation();
  const [change] = domainsApi.useChangeDomainMutation();
  const [remove] = domainsApi.useRemoveDomainMutation();
  const [removing, setRemoving] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const say = (error: unknown) => setProblem(problemOf(error).errors[0]?.message ?? problemOf(error).title);
  const isReady = domain.state === 'ready';
  return (
    <Panel>
      <header className="flex flex-wrap items-center gap-3 mb-3">
        <h2 className="wrap-anywhere">{domain.host}</h2>
        <Badge tone={isReady ? 'go' : 'care'}>{isReady ? 'Leads here' : 'Waits for its entries'}</Badge>
        {isReady ? (
          <ButtonAnchor className="ml-auto" href={openedAs(domain.address)} target="_blank" rel="noreferrer">
            <ExternalLink size={16} aria-hidden="true" /> Open it
          </ButtonAnchor>
        ) : null}
      </header>
      <div className="max-w-sm mb-4">
        <SelectField
          label="Opens on"
          value={domain.funnelId ?? ''}
          onChange={({ target }) => {
            setProblem(null);
            change({ id: domain.id, funnelId: target.value || null })
              .unwrap()
              .catch(say);
          }}
        >
          <FunnelOptions funnels={funnels} />
        </SelectField>
      </div>
      {isReady ? null : (
        <>
          <p className="font-semibold mb-1">Make these entries where you bought the domain:</p>
          <ul className="grid gap-2 mb-3">
            {domain.records.map((record) => (
              <RecordRow key={record.type} {...record} />
            ))}
          </ul>
        </>
      )}
      {domain.problems.length > 0 ? (
        <div role="status" className="mb-3">
          <ul className="grid gap-1">
            {domain.problems.map((text) => (
              <li key={text} className="wrap-anywhere">
                {text}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      <FormProblem>{problem}</FormProblem>
      <div className="flex flex-wrap items-center gap-3">
        <Button
          disabled={isLoading}
          onClick={() => {
            setProblem(null);
            check(domain.id).unwrap().catch(say);
          }}
        >
          Look now
        </Button>
        <span className="text-soft">{domain.checkedAt === null ? 'Not looked at yet.' : `Looked at ${formatTime(domain.checkedAt, timeZone)}.`}</span>
        <Button look="quiet" className="ml-auto" onClick={() => setRemoving(true)}>
          Remove
        </Button>
      </div>
      {removing ? (
        <Modal open onClose={() => setRemoving(false)} title={`Remove ${domain.host}?`}>
          <p className="mb-4">Links to {domain.host} that are out in the world lead to the shop’s usual first page then. The domain itself stays yours.</p>
          <Button
            look="danger"
            onClick={() => {
              remove(domain.id)
                .unwrap()
                .catch((error) => {
                  setRemoving(false);
                  say(error);
                });
            }}
          >
            Remove it
          </Button>
        </Modal>
      ) : null}
    </Panel>
  );
}

function RecordRow({ type, name, value }: { type: string; name: string; value: string }) {
  return (
    <li className="rounded-md bg-band px-3 py-2 grid gap-x-4 gap-y-1 sm:grid-cols-[3.5rem_minmax(0,1fr)_minmax(0,1fr)] items-center">
      <span className="font-mono font-semibold">{type}</span>
      <CopyText label="Name" text={name} />
      <CopyText label="Value" text={value} />
    </li>
  );
}

function CopyText({ label, text }: { label: string; text: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <span className="flex items-center gap-2 min-w-0">
      <span className="min-w-0">
        <span className="block text-soft text-[0.86rem]">{label}</span>
        <span className="font-mono wrap-anywhere">{text}</span>
      </span>
      <Button
        look="quiet"
        className="ml-auto shrink-0"
        aria-label={`Copy the ${label.toLowerCase()} ${text}`}
        title={copied ? 'Copied' : 'Copy'}
        onClick={() => {
          void navigator.clipboard.writeText(text).then(() => setCopied(true));
        }}
      >
        <Copy size={16} aria-hidden="true" />
      </Button>
    </span>
  );
}

const FunnelOptions = ({ funnels }: { funnels: Named }) => (
  <>
    <option value="">the shop’s own first page</option>
    {funnels.map(({ id, name }) => (
      <option key={id} value={id}>
        {name}
      </option>
    ))}
  </>
);

function AddDomain({ funnels, onClose }: { funnels: Named; onClose: () => void }) {
  const [add, { isLoading }] = domainsApi.useAddDomainMutation();
  const [host, setHost] = useState('');
  const [funnelId, setFunnelId] = useState('');
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <Modal open onClose={onClose} title="Add a domain" unsaved={host !== ''}>
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          setProblem(null);
          add({ host, funnelId: funnelId || null })
            .unwrap()
            .then(onClose)
            .catch((error) => {
              const refusal = problemOf(error);
              setErrors(Object.fromEntries(refusal.errors.map(({ path, message }) => [path, message])));
              if (refusal.errors.length === 0) setProblem(refusal.title);
            });
        }}
      >
        <TextField
          label="Domain"
          hint="For example shop.example.test, or example.test for the whole of it."
          autoFocus
          value={host}
          error={errors.host}
          onChange={({ target }) => setHost(target.value)}
        />
        <SelectField label="Opens on" value={funnelId} error={errors.funnelId} onChange={({ target }) => setFunnelId(target.value)}>
          <FunnelOptions funnels={funnels} />
        </SelectField>
        <FormProblem>{problem}</FormProblem>
        <div>
          <Button look="main" type="submit" disabled={isLoading}>
            Add it
          </Button>
        </div>
      </form>
    </Modal>
  );
}
