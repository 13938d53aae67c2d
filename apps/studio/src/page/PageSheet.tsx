import type { Step } from '@ruta/core/funnel';
import { mainOffer } from '@ruta/core/offers';
import type { Operation, PageDocument } from '@ruta/core/page';
import { problemOf } from '../base/api';
import { useAppDispatch } from '../base/store';
import { ProductSelect } from '../catalog/ProductSelect';
import { funnelApi } from '../funnel/api';
import { useWorkspace } from '../funnel/useFunnel';
import { Button } from '../ui/Button';
import { Check, FormProblem, TextArea, TextField } from '../ui/Field';
import { type StopDraft, stopTyped, useEditor } from './editorSlice';

/** The page's own settings: what search engines and link previews show, and the stop's name, address and product. */
export function PageSheet({ page, step, apply }: { page: PageDocument; step: Step; apply: (operation: Operation) => void }) {
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
          onChange={(event) => apply({ kind: 'changeSettings', changes: { title: event.target.value } })}
        />
        <TextArea
          label="Description"
          hint="Shown by search engines and link previews."
          rows={3}
          maxLength={300}
          value={page.description}
          onChange={(event) => apply({ kind: 'changeSettings', changes: { description: event.target.value } })}
        />
        <Check
          label="Search engines may list it"
          checked={page.indexed}
          onChange={(event) => apply({ kind: 'changeSettings', changes: { indexed: event.target.checked } })}
        />
      </section>
      <StepSettings key={step.id} step={step} />
    </div>
  );
}

function StepSettings({ step }: { step: Step }) {
  const { funnel } = useWorkspace();
  const aboutId = mainOffer(step)?.productId ?? '';
  const dispatch = useAppDispatch();
  const [change, { error, isLoading, isSuccess }] = funnelApi.useChangeStepMutation();
  const draft = useEditor().stopDraft ?? { name: step.name, slug: step.slug, productId: aboutId };
  const { name, slug, productId } = draft;
  const type = (changes: Partial<StopDraft>) => dispatch(stopTyped({ ...draft, ...changes }));
  const problem = error ? problemOf(error) : null;
  const refused = (path: string) => problem?.errors.find((field) => field.path === path)?.message;
  const isDirty = name !== step.name || slug !== step.slug || productId !== aboutId;
  return (
    <form
      noValidate
      className="grid gap-3 border-t border-line pt-4"
      onSubmit={(event) => {
        event.preventDefault();
        change({ id: step.id, name, slug, productId: productId || null })
          .unwrap()
          .then(() => dispatch(stopTyped(null)))
          .catch(() => undefined);
      }}
    >
      <h2>This stop</h2>
      <TextField label="Name" hint="Only your team sees it." value={name} onChange={(event) => type({ name: event.target.value })} error={refused('name')} />
      {step.id === funnel.graph.entryId ? (
        <p className="text-soft">The funnel begins here, at /{funnel.slug}.</p>
      ) : (
        <TextField
          label="Address"
          hint={`/${funnel.slug}/${slug}`}
          value={slug}
          onChange={(event) => type({ slug: event.target.value })}
          error={refused('slug')}
        />
      )}
      <ProductSelect
        label="Product"
        hint="Name, price and picture on the page follow it."
        value={productId}
        none="None"
        error={refused('productId')}
        onChange={(id) => type({ productId: id })}
      />
      <FormProblem>{problem && problem.errors.length === 0 ? problem.title : null}</FormProblem>
      <div className="flex items-center gap-3">
        <Button type="submit" disabled={isLoading || !isDirty}>
          Save this stop
        </Button>
        {isSuccess && !isDirty ? (
          <span role="status" className="text-go font-semibold">
            Saved
          </span>
        ) : null}
      </div>
    </form>
  );
}
