import type { FunnelDetail, Publication } from '@ruta/core/checks';
import { History } from 'lucide-react';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Badge, Panel, Waiting } from '../ui/Page';
import { funnelApi } from './api';
import { LinksPanel } from './LinksPanel';
import { OfflinePanel } from './OfflinePanel';
import { changeCount, useWorkspace } from './useFunnel';

/** How a funnel is reached, what it was published as, and how it is taken offline. */
export function PublicationsView() {
  const { funnel, shop } = useWorkspace();
  const { timeZone } = shop.settings;
  return (
    <main id="main" className="max-w-[1160px] mx-auto px-5 py-5 grid lg:grid-cols-2 gap-x-4 items-start">
      <div className="min-w-0">
        <LinksPanel funnel={funnel} shop={shop} />
      </div>
      <div className="min-w-0">
        <Panel title="Publications">
          {funnel.version === 0 ? <p className="text-soft">Not published yet.</p> : <Publications funnel={funnel} timeZone={timeZone} before={undefined} />}
        </Panel>
        {funnel.version > 0 ? <OfflinePanel key={String(funnel.offline?.at)} funnel={funnel} timeZone={timeZone} /> : null}
      </div>
    </main>
  );
}

/** One page of the publications, and those before them once they are asked for. */
function Publications({ funnel, timeZone, before }: { funnel: FunnelDetail; timeZone: string; before: number | undefined }) {
  const { data, error, refetch } = funnelApi.usePublicationsQuery({ id: funnel.id, before });
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<Publication | null>(null);
  if (!data) return <Waiting error={error} retry={refetch} />;
  return (
    <>
      <ol className="grid gap-3" data-publications="">
        {data.rows.map((publication) => (
          <li key={publication.version} className="border-b border-line pb-3 grid gap-1">
            <p className="flex flex-wrap items-center gap-2">
              <strong>Version {publication.version}</strong>
              {publication.isLive ? <Badge tone={funnel.offline ? 'plain' : 'go'}>{funnel.offline ? 'Latest' : 'Live'}</Badge> : null}
              <span className="text-soft">
                {formatTime(publication.at, timeZone)}
                {publication.by ? `, ${publication.by}` : ''}
              </span>
              <Button look="quiet" className="ml-auto" onClick={() => setChosen(publication)}>
                <History size={15} aria-hidden="true" /> Make it the draft
              </Button>
            </p>
            <Changes publication={publication} />
          </li>
        ))}
      </ol>
      {data.before === null ? null : open ? (
        <Publications funnel={funnel} timeZone={timeZone} before={data.before} />
      ) : (
        <p className="mt-3">
          <Button onClick={() => setOpen(true)}>Earlier ones</Button>
        </p>
      )}
      {chosen ? <BackDialog funnel={funnel} publication={chosen} onClose={() => setChosen(null)} /> : null}
    </>
  );
}

const SHOWN = 3;

function Changes({ publication: { version, changes } }: { publication: Publication }) {
  if (version === 1) return <p className="text-soft">Published for the first time.</p>;
  if (changes.length === 0) return <p className="text-soft">Nothing changed for visitors.</p>;
  const lines = changes.flatMap(({ step, what }) => what.map((each) => (step === null ? each : `${step}: ${each}`)));
  const list = (shown: string[]) => (
    <ul className="list-disc pl-5 wrap-anywhere">
      {shown.map((line, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: two changes may read alike
        <li key={index}>{line}</li>
      ))}
    </ul>
  );
  return (
    <div>
      {list(lines.slice(0, SHOWN))}
      {lines.length > SHOWN ? (
        <details>
          <summary className="cursor-pointer text-soft">{lines.length - SHOWN === 1 ? 'One more change' : `${lines.length - SHOWN} more changes`}</summary>
          {list(lines.slice(SHOWN))}
        </details>
      ) : null}
    </div>
  );
}

function BackDialog({ funnel, publication: { version }, onClose }: { funnel: FunnelDetail; publication: Publication; onClose: () => void }) {
  const [back, { error, isLoading }] = funnelApi.useDraftFromPublicationMutation();
  const waiting = changeCount(funnel);
  return (
    <Modal
      open
      onClose={onClose}
      title={`Make version ${version} the draft?`}
      description={`Steps, routes and pages become what they were in version ${version}. Visitors see it once you publish.`}
    >
      {waiting > 0 ? (
        <p className="mb-3">
          {waiting === 1 ? 'One change that is' : `${waiting} changes that are`} not published {waiting === 1 ? 'is' : 'are'} replaced. Each page as it is now
          is kept under its versions.
        </p>
      ) : null}
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
      <p className="flex gap-3">
        <Button
          look="main"
          disabled={isLoading}
          onClick={() =>
            back({ id: funnel.id, version })
              .unwrap()
              .then(onClose)
              .catch(() => undefined)
          }
        >
          Make it the draft
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </p>
    </Modal>
  );
}
