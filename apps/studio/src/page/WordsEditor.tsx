import { BOUND_VALUES, type BoundValue, type Words } from '@ruta/core/elements';
import { mergeAttributes, Node } from '@tiptap/core';
import Bold from '@tiptap/extension-bold';
import Document from '@tiptap/extension-document';
import HardBreak from '@tiptap/extension-hard-break';
import Italic from '@tiptap/extension-italic';
import Paragraph from '@tiptap/extension-paragraph';
import Text from '@tiptap/extension-text';
import { type Editor, EditorContent, useEditor } from '@tiptap/react';
import { useEffect, useRef } from 'react';
import { fromEditor, toEditor } from './wordsDocument';

/** The text editor that has the focus, for the sheet's buttons that put a bound value at the cursor. */
let activeEditor: Editor | null = null;

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

const LineOnEnter = HardBreak.extend({
  addKeyboardShortcuts() {
    return { Enter: () => this.editor.commands.setHardBreak() };
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
}) {
  const { words, label, clickedAt, onChange, onEscape } = props;
  const latest = useRef({ onChange, onEscape });
  latest.current = { onChange, onEscape };
  const editor = useEditor({
    extensions: [Document, Paragraph, Text, Bold, Italic, LineOnEnter, boundNode(label)],
    content: toEditor(words),
    injectCSS: false,
    editorProps: {
      attributes: { class: 'words-editor', 'aria-label': 'Words', role: 'textbox', 'aria-multiline': 'true' },
      handleKeyDown: (_view, event) => {
        if (event.key !== 'Escape') return false;
        latest.current.onEscape();
        return true;
      },
    },
    onCreate: ({ editor: created }) => {
      const place = clickedAt ? created.view.posAtCoords(clickedAt)?.pos : undefined;
      // At once, not with the next frame: whoever clicks and types at the same time must lose no letter.
      created.commands.setTextSelection(place ?? created.state.doc.content.size - 1);
      created.view.focus();
    },
    onFocus: ({ editor: focused }) => {
      activeEditor = focused;
    },
    onUpdate: ({ editor: updated }) => latest.current.onChange(fromEditor(updated.getJSON())),
    onDestroy: () => {
      activeEditor = null;
    },
  });

  // Undo and the sheet change the words from outside while they are open.
  useEffect(() => {
    if (!editor || editor.isDestroyed) return;
    if (JSON.stringify(fromEditor(editor.getJSON())) !== JSON.stringify(words)) editor.commands.setContent(toEditor(words), { emitUpdate: false });
  }, [editor, words]);

  return <EditorContent editor={editor} className="words-holder" />;
}
