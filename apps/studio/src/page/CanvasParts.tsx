import { elementRecordOf, type PageElement, takesLinks, type Words } from '@ruta/core/elements';
import { type Column, findElement, type Section } from '@ruta/core/page';
import { boundText, isUnfilled, layoutClasses, type PageContext, PlainWords, type SectionBox } from '@ruta/pages';
import type { ReactNode } from 'react';
import { useAppDispatch } from '../base/store';
import { ColumnEdge } from './ColumnEdge';
import { type CanvasHand, type OpenWords, useOpenWords, useScreen } from './canvasHand';
import { useChosen, useEditedPage, useFirstChosen } from './editorSlice';
import { unfilledWords } from './unfilled';
import { WordsEditor } from './WordsEditor';

/** A section on the canvas: chosen by a click, with its name while it is, and the plus below it. */
export function SectionFrame({ section, box, hand, children }: { section: Section; box: SectionBox; hand: CanvasHand; children: ReactNode }) {
  const isFirst = useFirstChosen(section.id);
  const isChosen = useChosen(section.id);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the outline selects by keyboard
    // biome-ignore lint/a11y/noStaticElementInteractions: a surface for the mouse; the outline is the way by keyboard
    <div
      {...box}
      className={`${box.className} edit-section`}
      data-section={section.id}
      data-selected={isChosen || undefined}
      data-conditional={section.show ? '' : undefined}
      onClick={(event) => hand.select({ kind: 'section', id: section.id }, event)}
    >
      {isFirst ? (
        <span className="edit-tag" style={{ left: 12, top: 0 }}>
          {section.name}
        </span>
      ) : null}
      {children}
      <button
        type="button"
        className="edit-plus"
        data-add-after={section.id}
        onClick={(event) => {
          event.stopPropagation();
          hand.addSection(hand.page().sections.findIndex(({ id }) => id === section.id) + 1);
        }}
      >
        + Add a section here
      </button>
    </div>
  );
}

/** An element on the canvas: chosen by a click, with its place and name while it is. */
export function ElementFrame({ element, context, hand, children }: { element: PageElement; context: PageContext; hand: CanvasHand; children: ReactNode }) {
  const isFirst = useFirstChosen(element.id);
  const isChosen = useChosen(element.id);
  const screen = useScreen();
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the outline selects by keyboard
    // biome-ignore lint/a11y/noStaticElementInteractions: a surface for the mouse; the outline is the way by keyboard
    <div
      className={`edit-element ${layoutClasses(element.layout)}`}
      data-element={element.id}
      data-selected={isChosen || undefined}
      data-conditional={element.show ? '' : undefined}
      data-unfilled={isUnfilled(element, context) ? '' : undefined}
      onClick={(event) => {
        hand.select({ kind: 'element', id: element.id }, event);
        // What folds a part away is pressed to open it.
        if (event.ctrlKey || event.metaKey || event.shiftKey || (event.target as Element).closest('summary')) return;
        const words = wordsNear(event.currentTarget, event.clientX, event.clientY);
        if (words) hand.openWords({ elementId: element.id, ...words, screen });
      }}
    >
      {isFirst ? <ElementTag element={element} /> : null}
      {isChosen && isUnfilled(element, context) ? <p className="edit-note">{unfilledWords(element, context).join(' ')}</p> : null}
      {children}
    </div>
  );
}

/**
 * The words whose box a click fell into, beside or below what is written in them, and where in them it puts the caret.
 * @returns null where no words have their box there
 */
function wordsNear(frame: HTMLElement, x: number, y: number): { path: string; at: OpenWords['at'] } | null {
  for (const words of frame.querySelectorAll<HTMLElement>('.words[data-path]')) {
    const box = words.parentElement?.getBoundingClientRect();
    if (!box || x < box.left || x > box.right || y < box.top || y > box.bottom) continue;
    const lines = [...words.getClientRects()].filter(({ width }) => width > 0);
    const line = lines.toSorted((one, other) => away(one, y) - away(other, y))[0];
    const within = (value: number, from: number, to: number) => Math.min(Math.max(value, from + 1), to - 1);
    const at = line ? { left: within(x, line.left, line.right), top: within(y, line.top, line.bottom) } : null;
    return { path: words.dataset.path ?? '', at };
  }
  return null;
}
/** How far a height is from a line; 0 within it. */
const away = ({ top, bottom }: DOMRect, y: number): number => Math.max(top - y, y - bottom, 0);

function ElementTag({ element }: { element: PageElement }) {
  const page = useEditedPage();
  const place = page ? findElement(page, element.id) : undefined;
  return (
    <span className="edit-tag">
      {place ? `${place.section.name} · ` : ''}
      {elementRecordOf(element.type).name}
    </span>
  );
}

/** What the editor puts at the end of a column: a word where it is empty, and the edge to the next one. */
export function ColumnEnd({ section, column, index, hand }: { section: Section; column: Column; index: number; hand: CanvasHand }) {
  const dispatch = useAppDispatch();
  return (
    <>
      {column.elements.length > 0 ? null : (
        <button type="button" className="edit-empty" onClick={(event) => hand.select({ kind: 'section', id: section.id }, event)}>
          Empty column. Add an element with the plus in the outline.
        </button>
      )}
      {index < section.columns.length - 1 ? <ColumnEdge section={section} index={index} dispatch={dispatch} /> : null}
    </>
  );
}

/** Words on the canvas; a click opens them for typing. */
export function EditableWords(props: { elementId: string; path: Array<string | number>; words: Words; context: PageContext; hand: CanvasHand }) {
  const { elementId, path, words, context, hand } = props;
  const openWords = useOpenWords();
  const screen = useScreen();
  const key = path.join('.');
  if (openWords?.elementId === elementId && openWords.path === key && openWords.screen === screen) {
    return (
      // biome-ignore lint/a11y/useKeyWithClickEvents: keeps a click into open words from selecting anew
      // biome-ignore lint/a11y/noStaticElementInteractions: keeps a click into open words from selecting anew
      <span className="words-open" onClick={(event) => event.stopPropagation()}>
        <WordsEditor
          words={words}
          clickedAt={openWords.at}
          label={(value) => boundText(value, context) || value}
          onChange={(next) => hand.changeWords(elementId, path, next)}
          onEscape={() => {
            hand.openWords(null);
            // Opened by keyboard from the outline, it is left for the outline.
            if (openWords.at === null) document.querySelector<HTMLElement>(`[data-outline="${CSS.escape(elementId)}"]`)?.focus();
          }}
          links={takesLinks(findElement(hand.page(), elementId)?.element.type ?? '', path)}
          siblings={hand.siblingsOf(elementId, path, screen)}
          onPasteBelow={(rest) => hand.pasteBelow(elementId, rest)}
        />
      </span>
    );
  }
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: Enter on the selected element opens its words
    // biome-ignore lint/a11y/noStaticElementInteractions: Enter on the selected element opens its words
    <span
      className="words"
      data-path={key}
      onClick={(event) => {
        hand.select({ kind: 'element', id: elementId }, event);
        if (event.ctrlKey || event.metaKey || event.shiftKey) return;
        hand.openWords({ elementId, path: key, at: { left: event.clientX, top: event.clientY }, screen });
      }}
    >
      {words.length === 0 ? (
        <span style={{ opacity: 0.6 }}>Words</span>
      ) : (
        <PlainWords words={words} render={(value) => boundText(value, context) ?? null} editing />
      )}
    </span>
  );
}
