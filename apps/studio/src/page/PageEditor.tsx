import type { ElementType } from '@ruta/core/elements';
import type { Facts } from '@ruta/core/facts';
import { findElement, isConditional, type Operation, sectionsIn, shownPage } from '@ruta/core/page';
import { ExternalLink, Eye, ListTree, Redo2, Undo2 } from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useLocation, useParams } from 'react-router';
import { openedAs } from '../base/openedAs';
import { useAppDispatch } from '../base/store';
import { SharedNotice } from '../funnel/SharedNotice';
import { pageKey, useWorkspace } from '../funnel/useFunnel';
import { Button, ButtonAnchor, ButtonLink, IconButton } from '../ui/Button';
import { LeaveGuard } from '../ui/LeaveGuard';
import { Notice } from '../ui/Notice';
import { Waiting } from '../ui/Page';
import { pageApi } from './api';
import { Canvas } from './Canvas';
import { ConflictBar } from './ConflictBar';
import { copyParts, pasteParts, removeParts } from './clipboard';
import { addElement, duplicate, moveTo, nudge } from './editing';
import {
  changed,
  chosenIds,
  closed,
  conflictMet,
  editsJoined,
  joinedRead,
  opened,
  pictureAdded,
  redone,
  selected,
  takenUp,
  undone,
  useEditor,
} from './editorSlice';
import { Outline } from './Outline';
import { PagePreview } from './PagePreview';
import { SectionLibrary } from './SectionLibrary';
import { SeenBy } from './SeenBy';
import { Sheet } from './Sheet';
import { joined, standingOf } from './standing';
import { studioContext } from './studioContext';
import type { OpenedAt } from './TryAnother';
import { unsavedPages } from './unsaved';
import { useAutosave } from './useAutosave';
import { ViewTools } from './ViewTools';
import { WordsTools } from './WordsTools';

/** The editor of one page: what is on it at the left, the page in the middle, a sheet for what is selected at the right. */
export function PageEditor() {
  const { stepId = '' } = useParams();
  const { funnel, shop } = useWorkspace();
  const step = funnel.graph.steps.find((candidate) => candidate.id === stepId);
  if (!step?.sharedFrom) return <Editor stepId={stepId} />;
  return (
    <main id="main" aria-label="Page" className="h-full overflow-y-auto p-5 grid content-start justify-items-center">
      <SharedNotice step={step} funnel={funnel} view="page" />
      <PagePreview step={step} funnel={funnel} shop={shop} bumpId={null} />
    </main>
  );
}

/** Words that somebody has marked are copied as words, as everywhere. */
const hasMarkedWords = (): boolean =>
  [window, ...[...document.querySelectorAll('iframe')].flatMap((frame) => frame.contentWindow ?? [])].some((view) => view.getSelection()?.type === 'Range');

function Editor({ stepId }: { stepId: string }) {
  const { funnel, shop } = useWorkspace();
  const dispatch = useAppDispatch();
  const editor = useEditor();
  const { page, selection } = editor;
  // A page of an arm is another one than the funnel's own, though it stands at the same stop.
  const key = pageKey(funnel, stepId);
  const loaded = pageApi.useStepPageQuery(key, { refetchOnMountOrArgChange: true });
  const [addingAt, setAddingAt] = useState<number | null>(null);
  const [seenBy, setSeenBy] = useState<Facts | null>(null);
  /** On a narrow screen the outline comes when it is called. */
  const [showsOutline, setShowsOutline] = useState(false);
  const step = funnel.graph.steps.find((candidate) => candidate.id === stepId);
  const stepName = step?.name ?? '';
  const setAside = useAutosave();
  const openedAt = useLocation().state as OpenedAt | null;

  // Opened anew only for another stop: what the server sends back after saving must not undo what is typed meanwhile.
  const { data, isFetching } = loaded;
  useEffect(() => {
    if (!data || data.stepId !== key || isFetching || editor.stepId === key) return;
    setAside();
    dispatch(opened({ ...data, place: { funnelId: funnel.id, name: stepName } }));
    if (openedAt?.select) dispatch(selected(openedAt.select));
    const kept = unsavedPages.find(key);
    if (!kept) return;
    const standing = standingOf(kept, data);
    unsavedPages.forget(kept.stepId, kept.windowId);
    if (standing !== 'arrived') {
      // From now on it is this window's own.
      unsavedPages.keep({ ...kept, revision: standing === 'follows' ? data.revision : kept.revision });
      dispatch(takenUp(kept));
    }
    const both = standing === 'conflicts' ? joined(kept, data) : null;
    if (both) dispatch(editsJoined({ page: both, server: data }));
    else if (standing === 'conflicts') dispatch(conflictMet(data));
  }, [data, isFetching, key, editor.stepId, dispatch, setAside, funnel.id, stepName, openedAt]);
  // A passage that is called for while its page is open.
  const { key: visit } = useLocation();
  const isOpen = editor.stepId === key;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each time that it is called for
  useEffect(() => {
    if (isOpen && openedAt?.select) dispatch(selected(openedAt.select));
  }, [visit]);
  useEffect(
    () => () => {
      setAside();
      dispatch(closed());
    },
    [dispatch, setAside],
  );

  const context = useMemo(() => (step ? studioContext(shop, funnel, step, editor.pictures) : null), [shop, funnel, step, editor.pictures]);

  const apply = useCallback((operation: Operation | null) => operation && dispatch(changed({ operation, at: Date.now() })), [dispatch]);

  const { conflict, stopDraft } = editor;
  const conflicting = conflict !== null;

  const chosen = useMemo(() => chosenIds({ selection, also: editor.also }), [selection, editor.also]);
  const [said, setSaid] = useState<string | null>(null);

  const onKey = useCallback(
    (event: KeyboardEvent) => {
      const target = event.composedPath()[0] as Element | undefined;
      const typing = target?.closest?.('input, textarea, select, [contenteditable=true]');
      const inDialog = target?.closest?.('[role=dialog], [role=menu]');
      const modifier = event.metaKey || event.ctrlKey;
      if (inDialog || !page || conflicting) return;
      const act = (action: () => void) => {
        event.preventDefault();
        action();
      };
      // Typed words are undone by the page's own history, so that one key undoes everything in turn.
      if (modifier && event.key.toLowerCase() === 'z' && !target?.closest?.('input, textarea')) act(() => dispatch(event.shiftKey ? redone() : undone()));
      else if (typing) return;
      else if (modifier && event.key.toLowerCase() === 'd' && selection) {
        act(() => {
          const copy = duplicate(page, selection);
          if (!copy) return;
          apply(copy.operation);
          dispatch(selected({ kind: selection.kind, id: copy.id }));
        });
      } else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown'))
        act(() => apply(nudge(page, selection, event.key === 'ArrowUp' ? -1 : 1)));
      else if (modifier && event.key.toLowerCase() === 'c' && selection && !hasMarkedWords()) act(() => setSaid(copyParts(page, chosen, editor.pictures)));
      else if (modifier && event.key.toLowerCase() === 'v') {
        const pasted = pasteParts(page, selection);
        if (!pasted) return;
        act(() => {
          for (const picture of pasted.pictures) dispatch(pictureAdded(picture));
          apply(pasted.operation);
          dispatch(selected(pasted.selected));
        });
      } else if ((event.key === 'Delete' || event.key === 'Backspace') && selection) {
        act(() => {
          apply(removeParts(page, chosen));
          dispatch(selected(null));
        });
      } else if (event.key === 'Escape') {
        const place = selection?.kind === 'element' ? findElement(page, selection.id) : undefined;
        act(() => dispatch(selected(place ? { kind: 'section', id: place.section.id } : null)));
      }
    },
    [page, selection, chosen, editor.pictures, apply, dispatch, conflicting],
  );
  useEffect(() => {
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [onKey]);

  if (!step) return <p className="p-8">This stop is not part of the funnel any more.</p>;
  if (!page || editor.stepId !== key || !context) return <Waiting error={loaded.error} retry={loaded.refetch} />;
  const own = sectionsIn(page, null);
  const end = own.at(-1);
  // What is added goes before a footer, and before what pop-ups show.
  const endOfBody = end ? page.sections.indexOf(end) + (end.space === 'tight' ? 0 : 1) : 0;
  return (
    <div className="h-full flex flex-col">
      {conflict ? <ConflictBar stepId={key} showing={conflict.showing} /> : null}
      {editor.hasJoined ? (
        <Notice
          tone="info"
          isBar
          role="status"
          actions={
            <Button look="quiet" onClick={() => dispatch(joinedRead())}>
              Good
            </Button>
          }
        >
          <span className="font-semibold">Another window changed other parts of this page meanwhile. Both are kept.</span>
        </Notice>
      ) : null}
      <div className="flex-1 min-h-0 grid grid-cols-[minmax(0,1fr)_minmax(220px,268px)] lg:grid-cols-[226px_minmax(0,1fr)_268px] relative" inert={conflicting}>
        <div
          className={`bg-white border-r border-line min-h-0 max-lg:absolute max-lg:inset-y-0 max-lg:left-0 max-lg:z-20 max-lg:w-60 ${showsOutline ? '' : 'max-lg:hidden'}`}
        >
          <Outline
            page={page}
            onAddSection={() => {
              const index = selection?.kind === 'section' ? page.sections.findIndex((section) => section.id === selection.id) + 1 : endOfBody;
              setAddingAt(index);
            }}
            onAddElement={(type: ElementType) => {
              const added = addElement(page, selection, type);
              if (!added) return;
              apply(added.operation);
              dispatch(selected({ kind: 'element', id: added.element.id }));
            }}
            onMove={(move) => apply(moveTo(page, move))}
          />
        </div>
        <main id="main" aria-label="Page" className="min-h-0 flex flex-col">
          <div className="flex flex-wrap items-center gap-2 px-4 py-2">
            <IconButton
              name={showsOutline ? 'Hide the outline' : 'Show the outline'}
              aria-expanded={showsOutline}
              onClick={() => setShowsOutline(!showsOutline)}
              className="lg:hidden bg-white !border-line"
            >
              <ListTree size={17} />
            </IconButton>
            <IconButton name="Undo (Ctrl Z)" disabled={editor.undo.length === 0} onClick={() => dispatch(undone())} className="bg-white !border-line">
              <Undo2 size={17} />
            </IconButton>
            <IconButton name="Redo (Ctrl Shift Z)" disabled={editor.redo.length === 0} onClick={() => dispatch(redone())} className="bg-white !border-line">
              <Redo2 size={17} />
            </IconButton>
            <WordsTools />
            <span role="status" className="text-soft">
              {chosen.length > 1 ? `${chosen.length} parts are chosen` : said}
            </span>
            <div className="ml-auto flex flex-wrap items-center gap-2">
              {isConditional(page) || seenBy ? <SeenBy funnel={funnel} facts={seenBy} onChange={setSeenBy} /> : null}
              <ButtonLink to={`/funnels/${funnel.id}/preview/${stepId}`} target="_blank" rel="noreferrer" look="quiet">
                <Eye size={15} aria-hidden="true" /> Preview
              </ButtonLink>
              {funnel.version > 0 && !funnel.arm ? (
                <ButtonAnchor href={openedAs(funnel.addresses[stepId] ?? '')} target="_blank" rel="noreferrer" look="quiet">
                  <ExternalLink size={15} aria-hidden="true" /> Live page
                </ButtonAnchor>
              ) : null}
              <ViewTools />
            </div>
          </div>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keyboard */}
          <section aria-label="The page itself" tabIndex={0} className="flex-1 min-h-0 overflow-y-auto px-4 pb-16">
            <Canvas
              page={conflict?.showing === 'theirs' ? conflict.page : seenBy ? shownPage(page, seenBy) : page}
              context={context}
              onKey={onKey}
              onAddSection={setAddingAt}
            />
          </section>
        </main>
        <aside aria-label="Settings of what is selected" data-sheet="" className="bg-white border-l border-line min-h-0 overflow-y-auto">
          <Sheet page={page} step={step} context={context} apply={apply} />
        </aside>
      </div>
      <LeaveGuard active={stopDraft !== null} />
      {addingAt !== null ? (
        <SectionLibrary
          context={context}
          linkedHere={page.sections.flatMap(({ linkedTo }) => linkedTo ?? [])}
          onClose={() => setAddingAt(null)}
          onChoose={(chosen) => {
            // What is added after a section of a pop-up is shown in it too.
            const { popUpId } = page.sections[addingAt - 1] ?? {};
            const section = popUpId ? { ...chosen, popUpId } : chosen;
            apply({ kind: 'insertSection', index: addingAt, section });
            dispatch(selected({ kind: 'section', id: section.id }));
            setAddingAt(null);
          }}
        />
      ) : null}
    </div>
  );
}
