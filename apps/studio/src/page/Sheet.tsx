import { elementRecordOf, type Layout } from '@ruta/core/elements';
import type { Step } from '@ruta/core/funnel';
import { findElement, type Operation, type PageDocument } from '@ruta/core/page';
import type { PageContext } from '@ruta/pages';
import { ArrowDown, ArrowUp, Copy, Trash2 } from 'lucide-react';
import { useAppDispatch } from '../base/store';
import { IconButton } from '../ui/Button';
import { ElementSheet } from './ElementSheet';
import { duplicate, nudge, otherwiseOf, removal } from './editing';
import { selected, useEditor } from './editorSlice';
import { LayoutFields, SizeFields } from './LayoutFields';
import { PageSheet } from './PageSheet';
import { SectionSheet } from './SectionSheet';
import { ShowFields } from './ShowFields';
import { TryAnother } from './TryAnother';

/** Settings of what is selected on the page, or of the page itself when nothing is. */
export function Sheet({ page, step, context, apply }: { page: PageDocument; step: Step; context: PageContext; apply: (operation: Operation | null) => void }) {
  const dispatch = useAppDispatch();
  const selection = useEditor().selection;
  const place = selection?.kind === 'element' ? findElement(page, selection.id) : undefined;
  const section = selection?.kind === 'section' ? page.sections.find((candidate) => candidate.id === selection.id) : undefined;
  if (!place && !section) return <PageSheet page={page} step={step} context={context} apply={apply} />;
  const part = place?.element ?? section;
  const setLayout = (layout: Layout | undefined) => place && apply({ kind: 'changeElement', elementId: place.element.id, changes: { layout } });
  const name = place ? elementRecordOf(place.element.type).name : (section?.name ?? '');
  return (
    <div className="px-4 py-3" key={selection?.id}>
      <header className="flex items-center gap-0.5 mb-3">
        <h2 className="flex-1 truncate">{name}</h2>
        <IconButton name="Move up (Alt ↑)" disabled={nudge(page, selection, -1) === null} onClick={() => apply(nudge(page, selection, -1))}>
          <ArrowUp size={17} />
        </IconButton>
        <IconButton name="Move down (Alt ↓)" disabled={nudge(page, selection, 1) === null} onClick={() => apply(nudge(page, selection, 1))}>
          <ArrowDown size={17} />
        </IconButton>
        <IconButton
          name="Duplicate (Ctrl D)"
          onClick={() => {
            const copy = duplicate(page, selection);
            if (!copy || !selection) return;
            apply(copy.operation);
            dispatch(selected({ kind: selection.kind, id: copy.id }));
          }}
        >
          <Copy size={16} />
        </IconButton>
        <IconButton
          name="Delete (Del)"
          onClick={() => {
            apply(removal(selection));
            dispatch(selected(null));
          }}
        >
          <Trash2 size={16} />
        </IconButton>
      </header>
      {place ? <ElementSheet element={place.element} context={context} apply={apply} /> : null}
      {section ? <SectionSheet page={page} section={section} apply={apply} /> : null}
      {place ? (
        <>
          <LayoutFields layout={place.element.layout} onChange={setLayout} />
          <SizeFields
            page={page}
            id={place.element.id}
            sizes={place.element.layout?.sizes}
            onChange={(sizes) => setLayout({ ...place.element.layout, sizes })}
            apply={apply}
          />
        </>
      ) : null}
      {place ? <TryAnother stepId={step.id} stepName={step.name} part={{ element: place.element }} /> : null}
      {section ? <TryAnother stepId={step.id} stepName={step.name} part={{ section }} /> : null}
      {part && selection ? (
        <ShowFields
          id={selection.id}
          show={part.show}
          page={page}
          onChange={(show) =>
            apply(
              place
                ? { kind: 'changeElement', elementId: selection.id, changes: { show } }
                : { kind: 'changeSection', sectionId: selection.id, changes: { show } },
            )
          }
          onOtherwise={() => {
            const added = otherwiseOf(page, selection);
            if (!added) return;
            apply(added.operation);
            dispatch(selected({ kind: selection.kind, id: added.id }));
          }}
          onSelect={(id) => dispatch(selected({ kind: selection.kind, id }))}
        />
      ) : null}
    </div>
  );
}
