import { createSlice, type PayloadAction, type WithSlice } from '@reduxjs/toolkit';
import type { PictureInfo } from '@ruta/core/catalog';
import { applyOperation, type Operation, type PageDocument, type StepPage } from '@ruta/core/page';
import { type RootState, rootReducer, useAppSelector } from '../base/store';
import type { PagePlace } from './unsaved';

export type Selection = { kind: 'section' | 'element'; id: string } | null;
export type Screen = 'phone' | 'tablet' | 'desktop';

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
  screen: Screen;
  saving: boolean;
  savedAt: number | null;
  saveProblem: string | null;
  /** What was typed of the stop’s own settings and is not saved; it stays while parts of the page are selected. */
  stopDraft: StopDraft | null;
  /** What is being sent just now; null while nothing is. */
  sending: PageDocument | null;
  /** Changes of another window have come into this page; said until somebody has read it. */
  hasJoined: boolean;
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
  screen: 'desktop',
  saving: false,
  savedAt: null,
  saveProblem: null,
  stopDraft: null,
  sending: null,
  conflict: null,
  hasJoined: false,
};

const MERGE_MS = 1500;
const MAX_HISTORY = 300;

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
      const { screen } = state;
      return { ...initialState, ...payload, base: payload.page, screen };
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
      return { ...initialState, screen: state.screen };
    },
    changed(state, { payload }: PayloadAction<Change>) {
      if (!state.page) return;
      const { page, inverse } = applyOperation(state.page as PageDocument, payload.operation);
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
      state.screen = payload;
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
/** The same, outside of rendering. */
export const editorOf = (state: RootState): EditorState => injected.selectSlice(state);
