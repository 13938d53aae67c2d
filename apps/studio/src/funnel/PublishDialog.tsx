import type { FunnelDetail, StopDifferences } from '@ruta/core/checks';
import type { ShopView } from '@ruta/core/pricing';
import { Copy, ExternalLink, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { openedAs } from '../base/openedAs';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { funnelApi } from './api';
import { changeCount, stopsOf } from './useFunnel';

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
                <li
                  key={`${problem.stepId}${problem.message}`}
                  className={`flex gap-3 rounded-md px-3 py-2 ${problem.severity === 'blocking' ? 'bg-stop-tint' : 'bg-way-tint'}`}
                >
                  <TriangleAlert size={18} className="shrink-0 mt-0.5" aria-hidden="true" />
                  <span>
                    {problem.stepId ? (
                      <Link to={`/funnels/${funnel.id}/page/${problem.stepId}`} onClick={onClose} className="font-semibold underline">
                        {nameOf(problem.stepId)}
                      </Link>
                    ) : null}{' '}
                    {problem.message}
                  </span>
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
              Last published {formatTime(funnel.publishedAt, shop.settings.timeZone)}, version {funnel.version}.
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
