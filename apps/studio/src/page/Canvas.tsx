import { wordPlaces } from '@ruta/core/elements';
import { findElement, type PageDocument } from '@ruta/core/page';
import { type EditHooks, isReordered, type PageContext, PageView } from '@ruta/pages';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useAppDispatch } from '../base/store';
import { ColumnEnd, EditableWords, ElementFrame, SectionFrame } from './CanvasParts';
import { canvasHand, type OpenWords, OpenWordsProvider, ScreenProvider } from './canvasHand';
import { EDIT_CSS } from './editCss';
import { SCREEN_WIDTHS, type Screen, screenChosen, selected, useEditor, wordsAsked } from './editorSlice';
import { PageFrame } from './PageFrame';
import { useBroughtIntoView } from './useBroughtIntoView';
import { WidthEdge } from './WidthEdge';

/** Beside each other the screens are never drawn smaller than this, however little room there is: they are scrolled then. */
const LEAST_SCALE = 0.33;
const GAP = 24;
/** Sections that keep their order follow one another as on the published page, where margins fall into one. */
const IN_FLOW = 'main{display:block}';
const BESIDE: Screen[] = ['phone', 'tablet', 'desktop'];
const NAMES: Record<Screen, string> = { phone: 'Phone', tablet: 'Tablet', desktop: 'Desktop' };

/** The canvas is as high as its page; what fills a screen is as high as on one of this usual height, in CSS pixels. */
const SCREEN_HEIGHTS: Record<Screen, number> = { phone: 844, tablet: 1180, desktop: 900 };
const tallOn = (screen: Screen) => `.tall{min-height:min(${SCREEN_HEIGHTS[screen] * 0.92}px,900px)}`;

/** The page at the width of a screen, or of several beside each other: click selects, click into words edits them in place. */
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
  const { selection, view, wordsAsked: askedFor, page: edited } = useEditor();
  const [openWords, setOpenWords] = useState<OpenWords | null>(null);
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

  const now = useRef({ page: edited ?? page, onAddSection, clicked: null as string | null });
  now.current = { ...now.current, page: edited ?? page, onAddSection };
  useBroughtIntoView(holder, selection, now);
  const keyHandler = useRef(onKey);
  keyHandler.current = (event) => {
    const typing = (event.target as Element | null)?.closest?.('[contenteditable=true]');
    if (event.key === 'Enter' && !typing && selection?.kind === 'element') {
      const path = firstWords(page, selection.id);
      if (path) {
        event.preventDefault();
        setOpenWords({ elementId: selection.id, path, at: null, screen: view.screen });
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
    if (path) setOpenWords({ elementId: askedFor, path, at: null, screen: view.screen });
  }, [askedFor, page, dispatch, view.screen]);
  const onDocument = useCallback((document: Document) => {
    document.addEventListener('keydown', (event) => keyHandler.current(event));
    // Before the parts themselves: what selects them lets no click out of the page.
    document.addEventListener(
      'click',
      (event) => {
        const target = event.target as Element;
        // Nothing on the page acts while it is edited: links and buttons are things to select. What is folded away opens.
        if (target.closest('a, button:not(.edit-plus):not(.edit-empty)')) event.preventDefault();
        const turn = target.closest<HTMLElement>('[data-turn]');
        const row = turn?.closest('[data-carousel]')?.querySelector('ul');
        if (turn && row) row.scrollBy({ left: Number(turn.dataset.turn) * row.clientWidth });
      },
      true,
    );
  }, []);

  const hooks = useMemo<EditHooks>(() => {
    const hand = canvasHand(dispatch, now, setOpenWords);
    return {
      framesLayout: true,
      frameSection: (section, box, row) => (
        <SectionFrame key={section.id} section={section} box={box} hand={hand}>
          {row}
        </SectionFrame>
      ),
      frameElement: (element, children) => (
        <ElementFrame element={element} context={context} hand={hand}>
          {children}
        </ElementFrame>
      ),
      columnEnd: (section, column, index) => <ColumnEnd section={section} column={column} index={index} hand={hand} />,
      editableWords: (elementId, path, words) => (
        <EditableWords key={`${elementId}.${path.join('.')}`} elementId={elementId} path={path} words={words} context={context} hand={hand} />
      ),
    };
  }, [context, dispatch]);

  const screens = view.isBeside ? BESIDE : [view.screen];
  const widthOf = (screen: Screen) => view.width ?? SCREEN_WIDTHS[screen];
  const wanted = screens.reduce((sum, screen) => sum + widthOf(screen), 0);
  const fitting = Math.min(1, (room - 2 - (screens.length - 1) * GAP) / wanted);
  const scale = view.isBeside ? Math.max(LEAST_SCALE, fitting) : fitting;
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: Esc does the same by keyboard
    // biome-ignore lint/a11y/noStaticElementInteractions: a click beside the page selects nothing
    <div
      ref={holder}
      className={`flex ${view.isBeside ? 'items-start overflow-x-auto' : 'justify-center'}`}
      style={{ gap: GAP }}
      onClick={() => dispatch(selected(null))}
    >
      <OpenWordsProvider value={openWords}>
        {screens.map((screen) => (
          <ScreenProvider key={view.isBeside ? screen : 'only'} value={screen}>
            <figure className="shrink-0" onClickCapture={() => view.isBeside && screen !== view.screen && dispatch(screenChosen(screen))}>
              {view.isBeside ? (
                <figcaption className={`mb-1 ${screen === view.screen ? 'font-semibold' : 'text-soft'}`}>
                  {NAMES[screen]}, {widthOf(screen)} wide
                </figcaption>
              ) : null}
              <div className="relative border border-line bg-white">
                <PageFrame
                  title={view.isBeside && screen !== view.screen ? `The page on a ${NAMES[screen].toLowerCase()}` : 'The page being edited'}
                  brand={context.brand}
                  width={widthOf(screen)}
                  scale={scale}
                  extraCss={EDIT_CSS + tallOn(screen) + (isReordered(page) ? '' : IN_FLOW)}
                  isEdited
                  className={view.hasOutlines ? 'edit-outlines' : ''}
                  onDocument={onDocument}
                >
                  {page.sections.length === 0 ? (
                    <p style={{ padding: '96px 24px', textAlign: 'center' }}>
                      <button type="button" className="edit-empty" onClick={() => onAddSection(0)}>
                        Nothing is on this page yet. Add its first section
                      </button>
                    </p>
                  ) : null}
                  <PageView page={page} context={context} edit={hooks} />
                </PageFrame>
                {view.isBeside ? null : <WidthEdge width={widthOf(screen)} scale={scale} />}
              </div>
            </figure>
          </ScreenProvider>
        ))}
      </OpenWordsProvider>
    </div>
  );
}

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
