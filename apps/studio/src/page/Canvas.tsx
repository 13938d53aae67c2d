import { elementRecordOf, isElementOf, type Sizes, takesLinks, type Words, wordPlaces } from '@ruta/core/elements';
import { allElements, findElement, type PageDocument } from '@ruta/core/page';
import { boundText, type EditHooks, layoutClasses, type PageContext, PageView, PlainWords, sizeClasses } from '@ruta/pages';
import { type MouseEvent, type ReactNode, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { useAppDispatch } from '../base/store';
import { ColumnEdge } from './ColumnEdge';
import { EDIT_CSS } from './editCss';
import { alsoSelected, changed, type Selection, selected, useEditor, wordsAsked } from './editorSlice';
import { PageFrame } from './PageFrame';
import { type Siblings, WordsEditor } from './WordsEditor';
import { setAt } from './words';

const WIDTHS = { phone: 390, tablet: 820, desktop: 1200 };

/** Which words are open for typing: an element's, and where in it they stand. */
type OpenWords = { elementId: string; path: string; at: { left: number; top: number } | null } | null;

/** The page at the width of a phone, a tablet or a desktop: click selects, click into words edits them in place. */
export function Canvas({
  page,
  context,
  onKey,
  onAddSection,
}: {
  page: PageDocument;
  context: PageContext;
  onKey: (event: KeyboardEvent) => void;
  onAddSection: (index: number) => void;
}) {
  const dispatch = useAppDispatch();
  const { selection, also, screen, wordsAsked: askedFor } = useEditor();
  const [openWords, setOpenWords] = useState<OpenWords>(null);
  const holder = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(700);

  useLayoutEffect(() => {
    if (!holder.current) return;
    const observer = new ResizeObserver(([entry]) => entry && setRoom(entry.contentRect.width));
    observer.observe(holder.current);
    return () => observer.disconnect();
  }, []);

  // What is selected elsewhere is no longer being typed into.
  useEffect(() => {
    setOpenWords((open) => (open && selection?.id !== open.elementId ? null : open));
  }, [selection]);

  const keyHandler = useRef(onKey);
  keyHandler.current = (event) => {
    const typing = (event.target as Element | null)?.closest?.('[contenteditable=true]');
    if (event.key === 'Enter' && !typing && selection?.kind === 'element') {
      const path = firstWords(page, selection.id);
      if (path) {
        event.preventDefault();
        setOpenWords({ elementId: selection.id, path, at: null });
        return;
      }
    }
    if (typing) onKey(event);
    else forward(event);
  };
  // Asked for in the outline: the words are open, and have the keyboard.
  useEffect(() => {
    if (!askedFor) return;
    const path = firstWords(page, askedFor);
    dispatch(wordsAsked(null));
    if (path) setOpenWords({ elementId: askedFor, path, at: null });
  }, [askedFor, page, dispatch]);
  const onDocument = useCallback((document: Document) => {
    document.addEventListener('keydown', (event) => keyHandler.current(event));
    document.addEventListener('click', (event) => {
      // Nothing on the page acts while it is edited: links and buttons are things to select.
      if ((event.target as Element).closest('a, button:not(.edit-plus):not(.edit-empty), summary')) event.preventDefault();
    });
  }, []);

  const hooks = useMemo<EditHooks>(() => {
    const conditional = new Set([...page.sections, ...allElements(page)].flatMap((part) => (part.show ? [part.id] : [])));
    const layouts = new Map(allElements(page).map(({ id, layout }) => [id, layout]));
    const siblingsOf = (elementId: string, path: Array<string | number>): Siblings | undefined => {
      const element = findElement(page, elementId)?.element;
      const index = Number(path[1]);
      if (!element || !isElementOf(element, 'list') || path[0] !== 'items') return undefined;
      const change = (items: Words[], next: number) => {
        // At once: the next letter belongs to the next line already.
        flushSync(() => {
          dispatch(changed({ operation: { kind: 'changeElement', elementId, changes: { items } }, at: Date.now() }));
          setOpenWords({ elementId, path: `items.${next}`, at: null });
        });
      };
      return {
        split: (before, after) => change(element.items.toSpliced(index, 1, before, after), index + 1),
        remove: () => element.items.length > 1 && change(element.items.toSpliced(index, 1), Math.max(0, index - 1)),
      };
    };
    const select = (next: Selection, event: MouseEvent) => {
      event.stopPropagation();
      dispatch(next && (event.ctrlKey || event.metaKey || event.shiftKey) ? alsoSelected(next) : selected(next));
    };
    return {
      framesLayout: true,
      frameSection: (sectionId, children) => {
        const index = page.sections.findIndex((section) => section.id === sectionId);
        const isSelected = selection?.id === sectionId;
        return (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the outline selects by keyboard
          // biome-ignore lint/a11y/noStaticElementInteractions: a surface for the mouse; the outline is the way by keyboard
          <div
            key={sectionId}
            className={`edit-section ${orderClasses(page.sections[index]?.sizes)}`}
            data-section={sectionId}
            data-selected={isSelected || also.includes(sectionId) || undefined}
            data-conditional={conditional.has(sectionId) ? '' : undefined}
            onClick={(event) => select({ kind: 'section', id: sectionId }, event)}
          >
            {isSelected ? (
              <span className="edit-tag" style={{ left: 12, top: 0 }}>
                {page.sections[index]?.name}
              </span>
            ) : null}
            {children}
            <button
              type="button"
              className="edit-plus"
              data-add-after={sectionId}
              onClick={(event) => {
                event.stopPropagation();
                onAddSection(index + 1);
              }}
            >
              + Add a section here
            </button>
          </div>
        );
      },
      frameElement: (elementId, children) => {
        const isSelected = selection?.id === elementId;
        const place = isSelected ? findElement(page, elementId) : undefined;
        return (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the outline selects by keyboard
          // biome-ignore lint/a11y/noStaticElementInteractions: a surface for the mouse; the outline is the way by keyboard
          <div
            className={`edit-element ${layoutClasses(layouts.get(elementId))}`}
            data-element={elementId}
            data-selected={isSelected || also.includes(elementId) || undefined}
            data-conditional={conditional.has(elementId) ? '' : undefined}
            onClick={(event) => select({ kind: 'element', id: elementId }, event)}
          >
            {place ? (
              <span className="edit-tag">
                {place.section.name} · {elementRecordOf(place.element.type).name}
              </span>
            ) : null}
            {children}
          </div>
        );
      },
      columnEnd: (columnId, index) => {
        const column = page.sections.flatMap((section) => section.columns).find((candidate) => candidate.id === columnId);
        const section = page.sections.find((candidate) => candidate.columns.some((other) => other.id === columnId));
        if (!column || !section) return null;
        return (
          <>
            {column.elements.length > 0 ? null : (
              <button type="button" className="edit-empty" onClick={(event) => select({ kind: 'section', id: section.id }, event)}>
                Empty column. Add an element with the plus in the outline.
              </button>
            )}
            {index < section.columns.length - 1 ? <ColumnEdge section={section} index={index} dispatch={dispatch} /> : null}
          </>
        );
      },
      editableWords: (elementId, path, words) => {
        const key = path.join('.');
        return (
          <EditableWords
            key={`${elementId}.${key}`}
            words={words}
            context={context}
            open={openWords?.elementId === elementId && openWords.path === key ? openWords : null}
            onOpen={(event) => {
              select({ kind: 'element', id: elementId }, event);
              if (event.ctrlKey || event.metaKey || event.shiftKey) return;
              setOpenWords({ elementId, path: key, at: { left: event.clientX, top: event.clientY } });
            }}
            onClose={() => {
              setOpenWords(null);
              // Opened by keyboard from the outline, it is left for the outline.
              if (openWords?.at === null) document.querySelector<HTMLElement>(`[data-outline="${CSS.escape(elementId)}"]`)?.focus();
            }}
            links={takesLinks(findElement(page, elementId)?.element.type ?? '', path)}
            siblings={siblingsOf(elementId, path)}
            onChange={(next) => {
              const place = findElement(page, elementId);
              if (!place) return;
              const changes = setAt(place.element, path, next);
              dispatch(changed({ operation: { kind: 'changeElement', elementId, changes }, mergeKey: `${elementId}.${key}`, at: Date.now() }));
            }}
          />
        );
      },
    };
  }, [page, context, selection, also, openWords, dispatch, onAddSection]);

  const width = WIDTHS[screen];
  const scale = Math.min(1, (room - 2) / width);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: Esc does the same by keyboard
    // biome-ignore lint/a11y/noStaticElementInteractions: a click beside the page selects nothing
    <div ref={holder} className="flex justify-center" onClick={() => dispatch(selected(null))}>
      <div className="border border-line bg-white">
        <PageFrame title="The page being edited" brand={context.brand} width={width} scale={scale} extraCss={EDIT_CSS} onDocument={onDocument}>
          {page.sections.length === 0 ? (
            <p style={{ padding: '96px 24px', textAlign: 'center' }}>
              <button type="button" className="edit-empty" onClick={() => onAddSection(0)}>
                Nothing is on this page yet. Add its first section
              </button>
            </p>
          ) : null}
          <PageView page={page} context={context} edit={hooks} />
        </PageFrame>
      </div>
    </div>
  );
}

function EditableWords(props: {
  words: Words;
  context: PageContext;
  open: NonNullable<OpenWords> | null;
  onOpen: (event: MouseEvent) => void;
  onClose: () => void;
  onChange: (words: Words) => void;
  links: boolean;
  siblings: Siblings | undefined;
}): ReactNode {
  const { words, context, open } = props;
  if (open) {
    return (
      // biome-ignore lint/a11y/useKeyWithClickEvents: keeps a click into open words from selecting anew
      // biome-ignore lint/a11y/noStaticElementInteractions: keeps a click into open words from selecting anew
      <span className="words-open" onClick={(event) => event.stopPropagation()}>
        <WordsEditor
          words={words}
          clickedAt={open.at}
          label={(value) => boundText(value, context) || value}
          onChange={props.onChange}
          onEscape={props.onClose}
          links={props.links}
          siblings={props.siblings}
        />
      </span>
    );
  }
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: Enter on the selected element opens its words
    // biome-ignore lint/a11y/noStaticElementInteractions: Enter on the selected element opens its words
    <span className="words" onClick={props.onOpen}>
      {words.length === 0 ? (
        <span style={{ opacity: 0.6 }}>Words</span>
      ) : (
        <PlainWords words={words} render={(value) => boundText(value, context) ?? null} editing />
      )}
    </span>
  );
}

/** The frame of a section takes its place; everything else of it is the section's own. */
const orderClasses = (sizes: Sizes | undefined): string =>
  sizeClasses(sizes)
    .filter((name) => name.includes('-order-'))
    .join(' ');

/** Hands a key that was pressed on the page on to the studio, whose shortcuts work there too. */
function forward(event: KeyboardEvent): void {
  const { key, code, ctrlKey, metaKey, altKey, shiftKey } = event;
  const copy = new KeyboardEvent('keydown', { key, code, ctrlKey, metaKey, altKey, shiftKey, bubbles: true, cancelable: true });
  const frame = (event.target as Element | null)?.ownerDocument.defaultView?.frameElement;
  if (frame && !frame.dispatchEvent(copy)) event.preventDefault();
}

/** Where the first words of an element stand, for opening them by keyboard. */
function firstWords(page: PageDocument, elementId: string): string | null {
  const element = findElement(page, elementId)?.element;
  return (element && wordPlaces(element)[0]?.join('.')) ?? null;
}
