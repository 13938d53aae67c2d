import type { Step } from '@ruta/core/funnel';
import { differences, type Operation, type PageDocument, type PageVersion } from '@ruta/core/page';
import { type PageContext, PageView } from '@ruta/pages';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { useAppDispatch } from '../base/store';
import { useWorkspace } from '../funnel/useFunnel';
import { Button, IconButton } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Waiting } from '../ui/Page';
import { STILL } from '../ui/still';
import { pageApi } from './api';
import { pictureAdded } from './editorSlice';
import { PageFrame } from './PageFrame';

interface VersionsProps {
  page: PageDocument;
  step: Step;
  context: PageContext;
  apply: (operation: Operation) => void;
}

/** Versions of the page to go back to: kept under a name, or live once. */
export function VersionsSheet({ page, step, context, apply }: VersionsProps) {
  const { shop } = useWorkspace();
  const { data: versions = [], error } = pageApi.usePageVersionsQuery(step.id);
  const [keep, keeping] = pageApi.useKeepVersionMutation();
  const [forget] = pageApi.useForgetVersionMutation();
  const [name, setName] = useState('');
  const [shown, setShown] = useState<PageVersion | null>(null);
  return (
    <section className="grid gap-3 border-t border-line pt-4">
      <h2>Versions</h2>
      <form
        className="grid gap-2"
        onSubmit={async (event) => {
          event.preventDefault();
          const kept = await keep({ stepId: step.id, name, page })
            .unwrap()
            .catch(() => null);
          if (kept) setName('');
        }}
      >
        <TextField label="Keep this version as" maxLength={80} value={name} onChange={(event) => setName(event.target.value)} />
        <Button type="submit" disabled={name.trim() === '' || keeping.isLoading}>
          Keep it
        </Button>
        <FormProblem>{keeping.error ? (problemOf(keeping.error).errors[0]?.message ?? problemOf(keeping.error).title) : null}</FormProblem>
      </form>
      {error ? <p role="alert">The versions could not be loaded.</p> : null}
      <ul data-versions="">
        {versions.map((version) => (
          <li key={version.id} className="flex items-center border-b border-line last:border-0">
            <button type="button" onClick={() => setShown(version)} className="flex-1 min-w-0 py-2 text-left hover:underline">
              <span className="block font-semibold wrap-anywhere">{version.name}</span>
              <span className="block text-soft">{formatTime(version.at, shop.settings.timeZone)}</span>
            </button>
            {version.isLive ? null : (
              <IconButton name={`Forget “${version.name}”`} onClick={() => void forget({ stepId: step.id, id: version.id })}>
                <Trash2 size={15} />
              </IconButton>
            )}
          </li>
        ))}
      </ul>
      {shown ? <Compare version={shown} page={page} step={step} context={context} apply={apply} onClose={() => setShown(null)} /> : null}
    </section>
  );
}

/** A version beside what stands now, with what differs in words; taking it back is one step that can be undone. */
function Compare({ version, page, step, context, apply, onClose }: VersionsProps & { version: PageVersion; onClose: () => void }) {
  const dispatch = useAppDispatch();
  const { data, error, refetch } = pageApi.usePageVersionQuery({ stepId: step.id, id: version.id });
  const found = data ? differences(data.page, page) : [];
  return (
    <Modal open onClose={onClose} title={version.name} wide>
      {data ? (
        <div className="grid md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-5">
          <div className="border border-line rounded-md overflow-hidden max-h-[62vh] overflow-y-auto">
            <PageFrame title={`${version.name} of ${step.name}`} brand={context.brand} width={1100} scale={0.33} picture>
              <PageView page={data.page} context={{ ...context, pictures: { ...context.pictures, ...data.pictures } }} edit={STILL} />
            </PageFrame>
          </div>
          <div className="grid gap-3 content-start">
            <h3 className="font-semibold">What has changed since</h3>
            {found.length === 0 ? <p className="text-soft">Nothing: it is the same as now.</p> : null}
            <ul className="list-disc pl-5 max-h-[44vh] overflow-y-auto">
              {found.map(({ section, what }, index) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: two changes may read alike
                <li key={index} className="wrap-anywhere">
                  {section ? `${section}: ` : ''}
                  {what}
                </li>
              ))}
            </ul>
            <Button
              look="main"
              disabled={found.length === 0}
              onClick={() => {
                for (const picture of Object.values(data.pictures)) dispatch(pictureAdded(picture));
                apply({ kind: 'replacePage', page: data.page });
                onClose();
              }}
            >
              Go back to it
            </Button>
            <p className="text-soft">Undo brings back what stands there now. Visitors see it once it is published.</p>
          </div>
        </div>
      ) : (
        <Waiting error={error} retry={refetch} />
      )}
    </Modal>
  );
}
