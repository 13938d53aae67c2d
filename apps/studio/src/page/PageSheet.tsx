import { SlugSchema, type Step, StepSchema } from '@ruta/core/funnel';
import { mainOffer, sellsAbout } from '@ruta/core/offers';
import type { Operation, PageDocument } from '@ruta/core/page';
import type { PageContext } from '@ruta/pages';
import { newId } from '../base/newId';
import { useAppDispatch } from '../base/store';
import { ProductChooser } from '../catalog/ProductChooser';
import { useWorkspace } from '../funnel/useFunnel';
import { useMapHand } from '../funnel/useMap';
import { Check, TextArea, TextField } from '../ui/Field';
import { OwnCodeFields } from '../ui/OwnCodeFields';
import { stopTyped, useEditor } from './editorSlice';
import { LinkPreviews } from './LinkPreviews';
import { PageFiles } from './PageFiles';
import { PictureChooser } from './PictureChooser';
import { PopUpsSheet } from './PopUpsSheet';
import { VersionsSheet } from './VersionsSheet';

/** The page's own settings: what search engines and link previews show, and the stop's name, address and product. */
export function PageSheet({ page, step, context, apply }: { page: PageDocument; step: Step; context: PageContext; apply: (operation: Operation) => void }) {
  const { funnel } = useWorkspace();
  const set = (changes: Extract<Operation, { kind: 'changeSettings' }>['changes']) => apply({ kind: 'changeSettings', changes });
  return (
    <div className="px-4 py-3 grid gap-5">
      <section className="grid gap-3">
        <h2>This page</h2>
        <p className="text-soft">Click anything on the page to change it.</p>
        <TextField
          label="Public title"
          value={page.title}
          maxLength={120}
          error={page.title.trim() === '' ? 'Give the page a public title.' : undefined}
          onChange={(event) => set({ title: event.target.value })}
        />
        <TextArea
          label="Description"
          hint="Shown by search engines and link previews."
          rows={3}
          maxLength={300}
          value={page.description}
          onChange={(event) => set({ description: event.target.value })}
        />
        <Check label="Search engines may list it" checked={page.indexed} onChange={(event) => set({ indexed: event.target.checked })} />
        <PictureChooser label="Picture where its link is shared" fileId={page.shareImageId ?? null} onChoose={(id) => set({ shareImageId: id ?? undefined })} />
        <PictureChooser label="Icon in the browser’s tab" fileId={page.iconId ?? null} onChoose={(id) => set({ iconId: id ?? undefined })} />
        <LinkPreviews page={page} context={context} />
      </section>
      <StepSettings key={step.id} step={step} />
      <PopUpsSheet page={page} apply={apply} />
      {funnel.arm ? null : (
        <>
          <VersionsSheet page={page} step={step} context={context} apply={apply} />
          <PageFiles stepId={step.id} apply={apply} />
        </>
      )}
      <details className="border-t border-line pt-4">
        <summary className="font-semibold cursor-pointer">Code of your own{page.code ? ' · in use' : ''}</summary>
        <div className="mt-3">
          <OwnCodeFields code={page.code} where="On this page." onChange={(code) => set({ code })} />
        </div>
      </details>
    </div>
  );
}

/** The stop's own settings: saved as they are typed, as everything of the map is. What cannot be saved yet stays here and says why. */
function StepSettings({ step }: { step: Step }) {
  const { funnel } = useWorkspace();
  const { graph } = funnel;
  const { change } = useMapHand(graph);
  const dispatch = useAppDispatch();
  const typed = useEditor().stopDraft;
  const name = typed?.name ?? step.name;
  const slug = typed?.slug ?? step.slug;
  const productId = mainOffer(step)?.productId ?? '';
  const twin = graph.steps.find((other) => other.id !== step.id && other.slug === slug);
  const nameProblem = StepSchema.shape.name.safeParse(name).error?.issues[0]?.message;
  const slugProblem = SlugSchema.safeParse(slug).error?.issues[0]?.message ?? (twin ? `“${twin.name}” has this address already.` : undefined);
  const type = (changes: { name?: string; slug?: string }) => {
    const next = { name, slug, ...changes };
    const isName = StepSchema.shape.name.safeParse(next.name).success;
    const isSlug = SlugSchema.safeParse(next.slug).success && !graph.steps.some((other) => other.id !== step.id && other.slug === next.slug);
    dispatch(stopTyped({ ...(isName ? {} : { name: next.name }), ...(isSlug ? {} : { slug: next.slug }) }));
    const good = { ...(isName ? { name: next.name } : {}), ...(isSlug ? { slug: next.slug } : {}) };
    if (Object.keys(good).length > 0) change({ operations: [{ kind: 'changeStep', stepId: step.id, changes: good }] }, `${step.id} settings`);
  };
  const sell = (id: string) => {
    const sells = sellsAbout(step, id || null, () => newId('offer'));
    change({ operations: [{ kind: 'changeStep', stepId: step.id, changes: { sells } }] });
  };
  return (
    <section className="grid gap-3 border-t border-line pt-4">
      <h2>This stop</h2>
      <TextField
        label="Name"
        hint="Only your team sees it."
        value={name}
        maxLength={80}
        onChange={(event) => type({ name: event.target.value })}
        error={nameProblem}
      />
      {step.id === graph.entryId ? (
        <p className="text-soft">The funnel begins here, at /{funnel.slug}.</p>
      ) : funnel.arm ? (
        <p className="text-soft">
          Its address is /{funnel.slug}/{slug}: the same in all arms.
        </p>
      ) : (
        <TextField
          label="Address"
          hint={`/${funnel.slug}/${slug}`}
          value={slug}
          maxLength={60}
          onChange={(event) => type({ slug: event.target.value })}
          error={slugProblem}
        />
      )}
      <ProductChooser label="Product" hint="Name, price and picture on the page follow it." value={productId} none="None" onChange={sell} />
    </section>
  );
}
