import { createSelector, createSlice, original, type PayloadAction, type WithSlice } from '@reduxjs/toolkit';
import type { PictureInfo } from '@ruta/core/catalog';
import { type PageElement, type ScreenSize, screenAt } from '@ruta/core/elements';
import { equal } from '@ruta/core/json';
import { allElements, applyOperation, type Operation, type PageDocument, type Section, type StepPage } from '@ruta/core/page';
import { type RootState, rootReducer, useAppSelector } from '../base/store';
import type { PagePlace } from './unsaved';

export type Selection = { kind: 'section' | 'element'; id: string } | null;
export type Screen = ScreenSize;

/** How the page is looked at while it is edited; the same for every page that is opened. */
export interface View {
  /** What differs on one size of screen is set for this one. */
  screen: Screen;
  /** A width that was dragged, in CSS pixels; null at the usual width of the screen. */
  width: number | null;
  /** Phone, tablet and desktop beside each other. */
  isBeside: boolean;
  /** A line around every part, for what cannot be seen. */
  hasOutlines: boolean;
}

/** Widths at which a page is shown, in CSS pixels. */
export const SCREEN_WIDTHS: Record<Screen, number> = { phone: 390, tablet: 820, desktop: 1200 };
export const WIDTH_RANGE = { least: 280, most: 2560 };

interface HistoryEntry {
  /** Undoes the change. */
  inverse: Operation;
  /** Typing in one field is one step back, however many letters it was. */
  mergeKey: string | null;
  at: number;
}

export interface EditorState {
  stepId: string | null;
  /** Where the page belongs, for whoever is told that it is not saved. */
  place: PagePlace;
  page: PageDocument | null;
  revision: number;
  /** The page as the server has it at that revision. */
  base: PageDocument | null;
  pictures: Record<string, PictureInfo>;
  /** Counts every change, so that saving knows whether more was typed meanwhile. */
  changeNumber: number;
  savedNumber: number;
  undo: HistoryEntry[];
  redo: HistoryEntry[];
  selection: Selection;
  /** Parts that are chosen together with it, for what is done to several at once. */
  also: string[];
  /** The element whose words are to be opened for typing, as somebody asked by keyboard. */
  wordsAsked: string | null;
  view: View;
  saving: boolean;
  savedAt: number | null;
  saveProblem: string | null;
  /** What was typed of the stop’s own settings and is not saved; it stays while parts of the page are selected. */
  stopDraft: StopDraft | null;
  /** What is being sent just now; null while nothing is. */
  sending: PageDocument | null;
  /** Changes of another window have come into this page; said until somebody has read it. */
  hasJoined: boolean;
  /** What can be undone on pages that were left, newest last; it comes back with them. */
  histories: PageHistory[];
  /** Another window’s version, which was saved while this one was changed; nothing is saved until a person has chosen. */
  conflict: { page: PageDocument; revision: number; pictures: Record<string, PictureInfo>; showing: Version } | null;
}

/** What of a stop's settings cannot be saved as it is typed; what can is on the map. */
export interface StopDraft {
  name?: string;
  slug?: string;
}

export type Version = 'mine' | 'theirs';

const initialState: EditorState = {
  stepId: null,
  place: { funnelId: '', name: '' },
  page: null,
  revision: 0,
  base: null,
  pictures: {},
  changeNumber: 0,
  savedNumber: 0,
  undo: [],
  redo: [],
  selection: null,
  also: [],
  wordsAsked: null,
  view: { screen: 'desktop', width: null, isBeside: false, hasOutlines: false },
  saving: false,
  savedAt: null,
  saveProblem: null,
  stopDraft: null,
  sending: null,
  conflict: null,
  hasJoined: false,
  histories: [],
};

/** The changes of a page that was left, and the page as it was left. */
interface PageHistory {
  stepId: string;
  page: PageDocument;
  undo: HistoryEntry[];
  redo: HistoryEntry[];
}

const MERGE_MS = 1500;
const MAX_HISTORY = 300;
const MAX_PAGES = 20;

export interface Change {
  operation: Operation;
  mergeKey?: string;
  at: number;
}

/** The page being edited: every change is an operation, and its inverse is what undo applies. */
export const editorSlice = createSlice({
  name: 'editor',
  initialState,
  reducers: {
    opened(state, { payload }: PayloadAction<Pick<EditorState, 'stepId' | 'place' | 'page' | 'revision' | 'pictures'>>) {
      const { view, histories } = leave(state);
      // Only of the very page that was left: a step back must lead to where it came from.
      const kept = histories.find(({ stepId, page }) => stepId === payload.stepId && equal(page, payload.page));
      return { ...initialState, ...payload, base: payload.page, view, histories, undo: kept?.undo ?? [], redo: kept?.redo ?? [] };
    },
    /** Takes up what was changed here earlier and never reached the server: it is as if it had just been typed. */
    takenUp(state, { payload }: PayloadAction<{ page: PageDocument; pictures: Record<string, PictureInfo> }>) {
      if (!state.page) return;
      state.undo.push({ inverse: { kind: 'replacePage', page: state.page as PageDocument }, mergeKey: null, at: 0 });
      state.page = payload.page;
      state.pictures = { ...payload.pictures, ...state.pictures };
      state.changeNumber++;
    },
    /** Another window changed other parts meanwhile: both are kept, and what came is one step back. */
    editsJoined(state, { payload }: PayloadAction<{ page: PageDocument; server: Pick<StepPage, 'page' | 'revision' | 'pictures'> }>) {
      if (!state.page) return;
      state.undo.push({ inverse: { kind: 'replacePage', page: state.page as PageDocument }, mergeKey: null, at: 0 });
      state.redo = [];
      state.page = payload.page;
      state.base = payload.server.page;
      state.revision = payload.server.revision;
      state.pictures = { ...payload.server.pictures, ...state.pictures };
      state.saving = false;
      state.sending = null;
      state.saveProblem = null;
      state.hasJoined = true;
      state.changeNumber++;
    },
    joinedRead(state) {
      state.hasJoined = false;
    },
    conflictMet(state, { payload }: PayloadAction<{ page: PageDocument; revision: number; pictures: Record<string, PictureInfo> }>) {
      state.saving = false;
      state.sending = null;
      state.saveProblem = null;
      state.conflict = { ...payload, showing: 'mine' };
      state.pictures = { ...payload.pictures, ...state.pictures };
    },
    versionShown(state, { payload }: PayloadAction<Version>) {
      if (state.conflict) state.conflict.showing = payload;
    },
    /** Goes on with one of two versions; the other is one step back. */
    versionChosen(state, { payload }: PayloadAction<Version>) {
      const { conflict, page } = state;
      if (!conflict || !page) return;
      const other = payload === 'mine' ? conflict.page : page;
      state.undo.push({ inverse: { kind: 'replacePage', page: other as PageDocument }, mergeKey: null, at: 0 });
      state.redo = [];
      state.revision = conflict.revision;
      state.base = conflict.page as PageDocument;
      state.conflict = null;
      state.changeNumber++;
      if (payload === 'theirs') {
        state.page = conflict.page;
        state.savedNumber = state.changeNumber;
      }
    },
    closed(state) {
      return { ...initialState, ...leave(state) };
    },
    changed(state, { payload }: PayloadAction<Change>) {
      if (!state.page) return;
      const { page, inverse } = applyOperation(original(state.page) as PageDocument, payload.operation);
      state.page = page;
      state.changeNumber++;
      state.redo = [];
      const last = state.undo.at(-1);
      const mergeKey = payload.mergeKey ?? null;
      if (last && mergeKey !== null && last.mergeKey === mergeKey && payload.at - last.at < MERGE_MS) last.at = payload.at;
      else state.undo.push({ inverse, mergeKey, at: payload.at });
      if (state.undo.length > MAX_HISTORY) state.undo.shift();
    },
    undone(state) {
      step(state, state.undo, state.redo);
    },
    redone(state) {
      step(state, state.redo, state.undo);
    },
    stopTyped(state, { payload }: PayloadAction<StopDraft | null>) {
      state.stopDraft = payload && Object.keys(payload).length > 0 ? payload : null;
    },
    selected(state, { payload }: PayloadAction<Selection>) {
      state.selection = payload;
      state.also = [];
    },
    /** Chooses one more, or one fewer; the first one stays what the sheet shows. */
    alsoSelected(state, { payload }: PayloadAction<NonNullable<Selection>>) {
      if (!state.selection) state.selection = payload;
      else if (state.selection.id !== payload.id) {
        state.also = state.also.includes(payload.id) ? state.also.filter((id) => id !== payload.id) : [...state.also, payload.id];
      }
    },
    wordsAsked(state, { payload }: PayloadAction<string | null>) {
      state.wordsAsked = payload;
    },
    screenChosen(state, { payload }: PayloadAction<Screen>) {
      state.view.screen = payload;
      state.view.width = null;
    },
    /** A width of one's own; what differs on one size of screen is then set for the size that it falls under. */
    widthChosen(state, { payload }: PayloadAction<number>) {
      const width = Math.round(Math.max(WIDTH_RANGE.least, Math.min(WIDTH_RANGE.most, payload)));
      Object.assign(state.view, { width, screen: screenAt(width), isBeside: false });
    },
    besideToggled(state) {
      state.view.isBeside = !state.view.isBeside;
      state.view.width = null;
    },
    outlinesToggled(state) {
      state.view.hasOutlines = !state.view.hasOutlines;
    },
    pictureAdded(state, { payload }: PayloadAction<PictureInfo>) {
      state.pictures[payload.id] = payload;
    },
    saveBegan(state) {
      state.saving = true;
      state.sending = state.page;
    },
    saveDone(state, { payload }: PayloadAction<{ revision: number; changeNumber: number; at: number }>) {
      state.saving = false;
      state.base = state.sending ?? state.page;
      state.sending = null;
      state.revision = payload.revision;
      state.savedNumber = payload.changeNumber;
      state.savedAt = payload.at;
      state.saveProblem = null;
    },
    saveFailed(state, { payload }: PayloadAction<string>) {
      state.saving = false;
      state.sending = null;
      state.saveProblem = payload;
    },
  },
});

/** What stays when a page is left: how pages are looked at, and what can be undone on them. */
function leave({ view, histories, stepId, page, undo, redo }: EditorState): Pick<EditorState, 'view' | 'histories'> {
  if (!stepId || !page) return { view, histories };
  return { view, histories: [...histories.filter((history) => history.stepId !== stepId), { stepId, page, undo, redo }].slice(-MAX_PAGES) };
}

/** Applies the newest entry of one history and puts its inverse on the other. */
function step(state: EditorState, from: HistoryEntry[], to: HistoryEntry[]): void {
  const entry = from.pop();
  if (!entry || !state.page) return;
  const { page, inverse } = applyOperation(state.page as PageDocument, entry.inverse);
  state.page = page;
  state.changeNumber++;
  to.push({ inverse, mergeKey: null, at: entry.at });
  if (state.selection && !JSON.stringify(page).includes(`"${state.selection.id}"`)) state.selection = null;
}

export const {
  opened,
  takenUp,
  editsJoined,
  joinedRead,
  conflictMet,
  versionShown,
  versionChosen,
  closed,
  changed,
  undone,
  redone,
  stopTyped,
  selected,
  alsoSelected,
  wordsAsked,
  screenChosen,
  widthChosen,
  besideToggled,
  outlinesToggled,
  pictureAdded,
  saveBegan,
  saveDone,
  saveFailed,
} = editorSlice.actions;

/** Everything that is chosen. */
export const chosenIds = ({ selection, also }: Pick<EditorState, 'selection' | 'also'>): string[] => (selection ? [selection.id, ...also] : []);

/** Whether the server has everything that stands on the screen. */
export const isAllSaved = ({ changeNumber, savedNumber, conflict }: Pick<EditorState, 'changeNumber' | 'savedNumber' | 'conflict'>): boolean =>
  changeNumber === savedNumber && conflict === null;

declare module '../base/store' {
  export interface LazySlices extends WithSlice<typeof editorSlice> {}
}
/** Comes with the editor, so that nobody loads it who opens no page. */
const injected = editorSlice.injectInto(rootReducer);

/** What the editor has open. */
export const useEditor = () => useAppSelector((state) => injected.selectSlice(state));
/** Whether a part is chosen: asked alone, so that a row of many is not drawn anew with every letter. */
export const useChosen = (id: string): boolean => useAppSelector((state) => chosenIds(injected.selectSlice(state)).includes(id));
/** Whether the sheet shows a part. */
export const useFirstChosen = (id: string): boolean => useAppSelector((state) => injected.selectSlice(state).selection?.id === id);

/** Every part by its id: put together once for each change, however many rows ask. */
const partsOf = createSelector([(state: RootState) => injected.selectSlice(state).page], (page) => ({
  sections: new Map(page?.sections.map((section) => [section.id, section])),
  elements: new Map((page ? allElements(page) : []).map((element) => [element.id, element])),
}));
export const useSection = (id: string): Section | undefined => useAppSelector((state) => partsOf(state).sections.get(id));
export const useElement = (id: string): PageElement | undefined => useAppSelector((state) => partsOf(state).elements.get(id));

/** The page as it is being edited. */
export const useEditedPage = (): PageDocument | null => useAppSelector((state) => injected.selectSlice(state).page);
/** The same, outside of rendering. */
export const editorOf = (state: RootState): EditorState => injected.selectSlice(state);
