import { asWritten, BOUND_VALUES, type BoundValue, type Words } from '@ruta/core/elements';
import { paragraphsOf } from '@ruta/core/page';
import { mergeAttributes, Node } from '@tiptap/core';
import Bold from '@tiptap/extension-bold';
import Document from '@tiptap/extension-document';
import HardBreak from '@tiptap/extension-hard-break';
import Italic from '@tiptap/extension-italic';
import Link from '@tiptap/extension-link';
import Paragraph from '@tiptap/extension-paragraph';
import Text from '@tiptap/extension-text';
import { type Editor, EditorContent, useEditor } from '@tiptap/react';
import { useEffect, useLayoutEffect, useRef, useState, useSyncExternalStore } from 'react';
import { fromEditor, toEditor } from './wordsDocument';

/** The text editor that has the focus, for the buttons outside of it: bound values, bold, links. */
let activeEditor: Editor | null = null;
const listeners = new Set<() => void>();
function activate(editor: Editor | null): void {
  activeEditor = editor;
  for (const listener of listeners) listener();
}

/** The words that are being edited; null while none are. */
export function useActiveWords(): Editor | null {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => (activeEditor?.isDestroyed ? null : activeEditor),
  );
}

/** Puts a bound value at the cursor of the words being edited. @returns false if no words are being edited */
export function insertBound(value: BoundValue): boolean {
  if (!activeEditor || activeEditor.isDestroyed) return false;
  return activeEditor
    .chain()
    .focus()
    .insertContent({ type: 'bound', attrs: { value, fallback: null } })
    .run();
}

function boundNode(label: (value: BoundValue) => string) {
  return Node.create({
    name: 'bound',
    group: 'inline',
    inline: true,
    atom: true,
    addAttributes: () => ({ value: { default: 'product.name' }, fallback: { default: null } }),
    parseHTML: () => [{ tag: 'span[data-bound]' }],
    renderHTML: ({ node, HTMLAttributes }) => [
      'span',
      mergeAttributes(HTMLAttributes, { 'data-bound': node.attrs.value, class: 'bound-value', title: BOUND_VALUES[node.attrs.value as BoundValue] }),
      label(node.attrs.value as BoundValue),
    ],
  });
}

/** What Enter and Backspace do in words that are one of several. */
export interface Siblings {
  /** Enter: what stands before the cursor stays, the rest becomes the next one. */
  split: (before: Words, after: Words) => void;
  /** Backspace in one that is empty. */
  remove: () => void;
}

const keysOf = (siblings: () => Siblings | undefined) =>
  HardBreak.extend({
    addKeyboardShortcuts() {
      const { editor } = this;
      const line = () => editor.commands.setHardBreak();
      return {
        'Shift-Enter': line,
        Enter: () => {
          const { doc, selection } = editor.state;
          const several = siblings();
          if (!several) return line();
          several.split(fromEditor(doc.cut(0, selection.from).toJSON()), fromEditor(doc.cut(selection.to).toJSON()));
          return true;
        },
        Backspace: () => {
          const several = siblings();
          if (!several || !editor.isEmpty) return false;
          several.remove();
          return true;
        },
      };
    },
  });

/** Words edited in place, in the style they have on the page. */
export function WordsEditor(props: {
  words: Words;
  label: (value: BoundValue) => string;
  /** Where on the screen the click was that opened the words, so that the cursor stands there; null puts it at the end. */
  clickedAt: { left: number; top: number } | null;
  onChange: (words: Words) => void;
  onEscape: () => void;
  /** Where the words are one of several, as the lines of a list are. */
  siblings?: Siblings | undefined;
  /** Several paragraphs are pasted: those after the first. @returns false where they stand in the words themselves */
  onPasteBelow: (rest: readonly string[]) => boolean;
  /** Whether they can hold links. */
  links: boolean;
}) {
  const { words, label, clickedAt, onChange, onEscape, siblings, onPasteBelow, links } = props;
  const latest = useRef({ onChange, onEscape, siblings, onPasteBelow });
  latest.current = { onChange, onEscape, siblings, onPasteBelow };
  const editor = useEditor({
    extensions: [
      Document,
      Paragraph,
      Text,
      Bold,
      Italic,
      ...(links ? [Link.configure({ openOnClick: false, autolink: false, linkOnPaste: false })] : []),
      keysOf(() => latest.current.siblings),
      boundNode(label),
    ],
    content: toEditor(words),
    injectCSS: false,
    editorProps: {
      attributes: { class: 'words-editor', 'aria-label': 'Words', role: 'textbox', 'aria-multiline': 'true' },
      handlePaste: (view, event) => {
        const [first, ...rest] = paragraphsOf(event.clipboardData?.getData('text/plain') ?? '');
        if (first === undefined || rest.length === 0 || !latest.current.onPasteBelow(rest)) return false;
        view.dispatch(view.state.tr.insertText(first));
        return true;
      },
      handleKeyDown: (_view, event) => {
        if (event.key !== 'Escape') return false;
        latest.current.onEscape();
        return true;
      },
    },
    onFocus: ({ editor: focused }) => {
      activate(focused);
    },
    onUpdate: ({ editor: updated }) => latest.current.onChange(fromEditor(updated.getJSON())),
    onDestroy: () => activate(null),
  });

  // At once, not with the next frame: whoever clicks or presses Enter and types at the same time must lose no letter.
  const [place] = useState(clickedAt);
  const [isPlaceholder] = useState(() => words.some((node) => node.type === 'text' && node.placeholder));
  useLayoutEffect(() => {
    if (!editor) return;
    // Words in a part that is folded away come into sight with it.
    editor.view.dom.closest('details')?.setAttribute('open', '');
    // Words that are there to be replaced are replaced by the first letter.
    if (isPlaceholder) editor.commands.selectAll();
    const at = isPlaceholder ? undefined : place ? editor.view.posAtCoords(place)?.pos : undefined;
    if (!isPlaceholder) editor.commands.setTextSelection(at ?? editor.state.doc.content.size - 1);
    editor.view.focus();
  }, [editor, place, isPlaceholder]);

  // Undo and the sheet change the words from outside while they are open.
  useEffect(() => {
    if (!editor || editor.isDestroyed) return;
    if (JSON.stringify(fromEditor(editor.getJSON())) !== JSON.stringify(asWritten(words))) editor.commands.setContent(toEditor(words), { emitUpdate: false });
  }, [editor, words]);

  return <EditorContent editor={editor} className="words-holder" />;
}
