import type { FunnelDetail, Passage, StopDifferences } from '@ruta/core/checks';
import type { ShopView } from '@ruta/core/pricing';
import { Copy, ExternalLink } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { openedAs } from '../base/openedAs';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Notice } from '../ui/Notice';
import { funnelApi } from './api';
import { changeCount, stopsOf } from './useFunnel';

/** Where what is wrong with the shop itself is mended, by the check that found it; everything else is mended on a page. */
const PLACES: Record<string, { to: string; name: string } | undefined> = {
  'legal-pages': { to: '/settings/legal', name: 'Legal pages' },
  'legal-pages-to-write': { to: '/settings/legal', name: 'Legal pages' },
  'terms-unwritten': { to: '/settings/legal', name: 'Legal pages' },
  'no-payment': { to: '/connections', name: 'Connections' },
  'no-shipping': { to: '/settings/shipping', name: 'Shipping' },
};

/** What will go live, what stands in the way, and where it can be seen. */
export function PublishDialog({ funnel, shop, onClose }: { funnel: FunnelDetail; shop: ShopView; onClose: () => void }) {
  const [publish, { error, isLoading, isSuccess }] = funnelApi.usePublishMutation();
  const { data: changes = [] } = funnelApi.useDifferencesQuery(funnel.id);
  const [copied, setCopied] = useState(false);
  const stops = stopsOf(funnel);
  // In the order in which people come to them.
  const place = (id: string | null) => stops.findIndex((stop) => stop.id === id);
  const inOrder = <Item,>(items: readonly Item[], idOf: (item: Item) => string | null) => items.toSorted((a, b) => place(idOf(a)) - place(idOf(b)));
  const nameOf = (id: string | null) => stops.find((stop) => stop.id === id)?.name ?? 'Funnel';
  const blocking = funnel.problems.filter((problem) => problem.severity === 'blocking');
  const count = changeCount(funnel);
  const first = funnel.version === 0;
  const sharedWith = [...new Set(Object.values(funnel.sharing.with).flatMap((users) => users.map(({ name }) => name)))];
  const restarted = funnel.tests.filter(
    ({ state, stepIds }) => state === 'running' && stepIds.some((id) => funnel.changes.stepIds.includes(id) || funnel.changes.settings),
  );
  const address = funnel.addresses[funnel.graph.entryId] ?? '';
  return (
    <Modal
      open
      onClose={onClose}
      title={`Publish “${funnel.name}”`}
      description={`Visitors of ${new URL(shop.siteUrl).host} see what is published; your drafts stay yours.`}
    >
      <div className="grid gap-5">
        {funnel.problems.length > 0 ? (
          <section>
            <h2 className="mb-2">{blocking.length > 0 ? 'Mend this first' : 'Worth a look'}</h2>
            <ul className="grid gap-2">
              {inOrder(funnel.problems, ({ stepId }) => stepId).map((problem) => (
                <li key={`${problem.stepId}${problem.message}`}>
                  <Notice tone={problem.severity === 'blocking' ? 'stop' : 'care'}>
                    {PLACES[problem.check] ? (
                      <Link to={PLACES[problem.check]?.to ?? ''} onClick={onClose} className="font-semibold underline">
                        {PLACES[problem.check]?.name}
                      </Link>
                    ) : problem.stepId ? (
                      <Link to={`/funnels/${funnel.id}/page/${problem.stepId}`} onClick={onClose} className="font-semibold underline">
                        {nameOf(problem.stepId)}
                      </Link>
                    ) : null}{' '}
                    {problem.message}
                    {problem.passages && problem.stepId ? (
                      <Passages to={`/funnels/${funnel.id}/page/${problem.stepId}`} of={problem.passages} onFollow={onClose} />
                    ) : null}
                  </Notice>
                </li>
              ))}
            </ul>
          </section>
        ) : null}
        <section>
          <h2 className="mb-1">{first ? 'All stops go live for the first time' : count === 0 ? 'Everything is published' : 'What changes'}</h2>
          <ul className="list-disc pl-5">
            {first || count > 0
              ? inOrder(funnel.changes.stepIds, (id) => id).map((id) => (
                  <StopChanges key={id} name={nameOf(id)} found={first ? undefined : changes.find(({ stepId }) => stepId === id)} />
                ))
              : null}
            {!first && funnel.changes.settings ? <li>Name, address, look or routes</li> : null}
          </ul>
          {restarted.map(({ experimentId, name: test }) => (
            <p key={experimentId} className="mt-2 rounded-md bg-experiment-tint px-3 py-2 wrap-anywhere">
              “{test}” is running on what changes here. Publishing begins it anew: the new round counts from zero, the old one stays readable.
            </p>
          ))}
          {sharedWith.length > 0 ? (
            <p className="mt-1">
              Its offers are shared with {sharedWith.map((name) => `“${name}”`).join(', ')}: they change there with this, whatever else waits there.
            </p>
          ) : null}
          {funnel.publishedAt ? (
            <p className="text-soft mt-1">
              Last published {formatTime(funnel.publishedAt, shop.settings.timeZone)}, version {funnel.version}.{' '}
              <Link to={`/funnels/${funnel.id}/publications`} onClick={onClose} className="underline">
                Links and earlier publications
              </Link>
            </p>
          ) : null}
        </section>
        {first ? null : (
          <section>
            <h2 className="mb-1">Public address</h2>
            <p className="flex items-center gap-2 flex-wrap">
              <a
                href={address}
                target="_blank"
                rel="noreferrer"
                className="text-info underline inline-flex items-center gap-1.5"
                data-public-address=""
                onClick={(event) => {
                  event.preventDefault();
                  window.open(openedAs(address), '_blank', 'noopener');
                }}
              >
                {address} <ExternalLink size={15} aria-hidden="true" />
              </a>
              <Button
                onClick={async () => {
                  await navigator.clipboard.writeText(address);
                  setCopied(true);
                }}
              >
                <Copy size={15} aria-hidden="true" /> {copied ? 'Copied' : 'Copy'}
              </Button>
            </p>
          </section>
        )}
        {funnel.offline ? <Notice tone="info">The funnel is offline. Publishing puts it online again.</Notice> : null}
        <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
        <div className="flex items-center gap-3">
          <Button look="main" disabled={isLoading || blocking.length > 0 || (!first && count === 0)} onClick={() => publish(funnel.id)}>
            {first ? 'Publish all stops' : count === 0 ? 'Nothing to publish' : `Publish ${count} ${count === 1 ? 'change' : 'changes'}`}
          </Button>
          {isSuccess ? (
            <span role="status" className="text-go font-semibold">
              Published. It is live now.
            </span>
          ) : null}
        </div>
      </div>
    </Modal>
  );
}

/** Every place on a page that a problem is about, each leading there. */
function Passages({ to, of, onFollow }: { to: string; of: readonly Passage[]; onFollow: () => void }) {
  return (
    <details className="mt-1">
      <summary className="cursor-pointer font-semibold">{of.length === 1 ? 'Show the passage' : `Show all ${of.length} passages`}</summary>
      <ul className="mt-1 grid gap-1">
        {of.map(({ elementId, text }, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two passages may read alike
          <li key={index}>
            <Link to={to} state={{ select: { kind: 'element', id: elementId } }} onClick={onFollow} className="underline wrap-anywhere">
              {text}
            </Link>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** One stop that changes, with what of its page, to be opened. */
function StopChanges({ name, found }: { name: string; found: StopDifferences | undefined }) {
  if (!found || found.isNew) return <li>{found?.isNew ? `${name}, which is new` : name}</li>;
  return (
    <li>
      <details>
        <summary className="cursor-pointer">
          {name}: {found.differences.length === 1 ? 'one change' : `${found.differences.length} changes`} on the page
        </summary>
        <ul className="my-1 text-soft" data-differences="">
          {found.differences.map(({ section, what }, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two changes may read alike
            <li key={index} className="wrap-anywhere">
              {section ? `${section}: ` : ''}
              {what}
            </li>
          ))}
        </ul>
      </details>
    </li>
  );
}
