import { isElementOf, type Words } from '@ruta/core/elements';
import { findElement, type PageDocument, pastedBelow } from '@ruta/core/page';
import { createContext, type MouseEvent, useContext } from 'react';
import { flushSync } from 'react-dom';
import { newId } from '../base/newId';
import type { useAppDispatch } from '../base/store';
import { alsoSelected, changed, type Screen, type Selection, selected } from './editorSlice';
import type { Siblings } from './WordsEditor';
import { setAt } from './words';

/** Which words are open for typing: an element's, where in it they stand, and on which of the screens shown. */
export interface OpenWords {
  elementId: string;
  path: string;
  /** Where on the screen the click was; null if they were opened by keyboard. */
  at: { left: number; top: number } | null;
  screen: Screen;
}

const OpenWordsContext = createContext<OpenWords | null>(null);
export const OpenWordsProvider = OpenWordsContext.Provider;
export const useOpenWords = (): OpenWords | null => useContext(OpenWordsContext);

const ScreenContext = createContext<Screen>('desktop');
export const ScreenProvider = ScreenContext.Provider;
/** The screen on which a part of the canvas is drawn. */
export const useScreen = (): Screen => useContext(ScreenContext);

/**
 * What is done to the page on the canvas. The same object as long as the page is open: it reads the newest page when
 * something is done, so that no part has to be drawn anew only because another one was typed into.
 */
export interface CanvasHand {
  page: () => PageDocument;
  select: (next: Selection, event: MouseEvent) => void;
  openWords: (open: OpenWords | null) => void;
  addSection: (index: number) => void;
  changeWords: (elementId: string, path: Array<string | number>, words: Words) => void;
  siblingsOf: (elementId: string, path: Array<string | number>, screen: Screen) => Siblings | undefined;
  /** Puts pasted paragraphs below words that hold one alone. @returns false where they may stand in the words themselves */
  pasteBelow: (elementId: string, rest: readonly string[]) => boolean;
}

export function canvasHand(
  dispatch: ReturnType<typeof useAppDispatch>,
  now: { readonly current: { page: PageDocument; onAddSection: (index: number) => void; clicked: string | null } },
  openWords: (open: OpenWords | null) => void,
): CanvasHand {
  const page = () => now.current.page;
  return {
    page,
    openWords,
    addSection: (index) => now.current.onAddSection(index),
    select: (next, event) => {
      event.stopPropagation();
      now.current.clicked = next?.id ?? null;
      dispatch(next && (event.ctrlKey || event.metaKey || event.shiftKey) ? alsoSelected(next) : selected(next));
    },
    changeWords: (elementId, path, words) => {
      const place = findElement(page(), elementId);
      if (!place) return;
      const changes = setAt(place.element, path, words);
      dispatch(changed({ operation: { kind: 'changeElement', elementId, changes }, mergeKey: `${elementId}.${path.join('.')}`, at: Date.now() }));
    },
    pasteBelow: (elementId, rest) => {
      const operation = pastedBelow(page(), elementId, rest, newId);
      if (operation) dispatch(changed({ operation, at: Date.now() }));
      return operation !== null;
    },
    siblingsOf: (elementId, path, screen) => {
      if (path[0] !== 'items' || !isList(page(), elementId)) return undefined;
      const index = Number(path[1]);
      const items = () => {
        const element = findElement(page(), elementId)?.element;
        return element && isElementOf(element, 'list') ? element.items : [];
      };
      const change = (next: Words[], open: number) => {
        // At once: the next letter belongs to the next line already.
        flushSync(() => {
          dispatch(changed({ operation: { kind: 'changeElement', elementId, changes: { items: next } }, at: Date.now() }));
          openWords({ elementId, path: `items.${open}`, at: null, screen });
        });
      };
      return {
        split: (before, after) => change(items().toSpliced(index, 1, before, after), index + 1),
        remove: () => items().length > 1 && change(items().toSpliced(index, 1), Math.max(0, index - 1)),
      };
    },
  };
}

function isList(page: PageDocument, elementId: string): boolean {
  const element = findElement(page, elementId)?.element;
  return element !== undefined && isElementOf(element, 'list');
}
