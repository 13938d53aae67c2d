import { elementRecordOf, type PageElement, type Sizes, takesLinks, type Words } from '@ruta/core/elements';
import { type Column, findElement, type Section } from '@ruta/core/page';
import { boundText, layoutClasses, type PageContext, PlainWords, sizeClasses } from '@ruta/pages';
import type { ReactNode } from 'react';
import { useAppDispatch } from '../base/store';
import { ColumnEdge } from './ColumnEdge';
import { type CanvasHand, useOpenWords, useScreen } from './canvasHand';
import { useChosen, useEditedPage, useFirstChosen } from './editorSlice';
import { WordsEditor } from './WordsEditor';

/** A section on the canvas: chosen by a click, with its name while it is, and the plus below it. */
export function SectionFrame({ section, hand, children }: { section: Section; hand: CanvasHand; children: ReactNode }) {
  const isFirst = useFirstChosen(section.id);
  const isChosen = useChosen(section.id);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the outline selects by keyboard
    // biome-ignore lint/a11y/noStaticElementInteractions: a surface for the mouse; the outline is the way by keyboard
    <div
      className={`edit-section ${orderClasses(section.sizes)}`}
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
export function ElementFrame({ element, hand, children }: { element: PageElement; hand: CanvasHand; children: ReactNode }) {
  const isFirst = useFirstChosen(element.id);
  const isChosen = useChosen(element.id);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the outline selects by keyboard
    // biome-ignore lint/a11y/noStaticElementInteractions: a surface for the mouse; the outline is the way by keyboard
    <div
      className={`edit-element ${layoutClasses(element.layout)}`}
      data-element={element.id}
      data-selected={isChosen || undefined}
      data-conditional={element.show ? '' : undefined}
      onClick={(event) => hand.select({ kind: 'element', id: element.id }, event)}
    >
      {isFirst ? <ElementTag element={element} /> : null}
      {children}
    </div>
  );
}

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
        />
      </span>
    );
  }
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: Enter on the selected element opens its words
    // biome-ignore lint/a11y/noStaticElementInteractions: Enter on the selected element opens its words
    <span
      className="words"
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

/** The frame of a section takes its place; everything else of it is the section's own. */
const orderClasses = (sizes: Sizes | undefined): string =>
  sizeClasses(sizes)
    .filter((name) => name.includes('-order-'))
    .join(' ');
