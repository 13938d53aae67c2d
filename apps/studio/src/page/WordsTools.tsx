import { AddressSchema } from '@ruta/core/elements';
import type { Editor } from '@tiptap/core';
import { useEditorState } from '@tiptap/react';
import { Bold, Italic, Link2 } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../ui/Button';
import { TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { useActiveWords } from './WordsEditor';

/** Bold, italic and links for the words that are being typed; nothing while none are. */
export function WordsTools() {
  const editor = useActiveWords();
  return editor ? <Tools editor={editor} /> : null;
}

function Tools({ editor }: { editor: Editor }) {
  const [linking, setLinking] = useState(false);
  const is = useEditorState({
    editor,
    selector: ({ editor: shown }) => ({
      bold: shown.isActive('bold'),
      italic: shown.isActive('italic'),
      link: shown.isActive('link'),
      empty: shown.state.selection.empty,
    }),
  });
  const hasLinks = editor.schema.marks.link !== undefined;
  const tool = (name: string, Icon: typeof Bold, pressed: boolean, act: () => void, disabled = false) => (
    <button
      type="button"
      aria-label={name}
      title={name}
      aria-pressed={pressed}
      disabled={disabled}
      // The words keep the keyboard and what is selected in them.
      onMouseDown={(event) => event.preventDefault()}
      onClick={act}
      className={`grid place-items-center w-9 h-7 rounded-sm disabled:opacity-40 ${pressed ? 'bg-ink text-white' : 'text-soft hover:bg-band'}`}
    >
      <Icon size={16} aria-hidden="true" />
    </button>
  );
  return (
    <fieldset className="flex rounded-md border border-line bg-white p-0.5">
      <legend className="sr-only">The words</legend>
      {tool('Bold (Ctrl B)', Bold, is.bold, () => editor.chain().focus().toggleBold().run())}
      {tool('Italic (Ctrl I)', Italic, is.italic, () => editor.chain().focus().toggleItalic().run())}
      {hasLinks ? tool(is.empty && !is.link ? 'Link: select words first' : 'Link', Link2, is.link, () => setLinking(true), is.empty && !is.link) : null}
      {linking ? <LinkDialog editor={editor} onClose={() => setLinking(false)} /> : null}
    </fieldset>
  );
}

function LinkDialog({ editor, onClose }: { editor: Editor; onClose: () => void }) {
  const before = String(editor.getAttributes('link').href ?? '');
  const [typed, setTyped] = useState(before || 'https://');
  const [problem, setProblem] = useState('');
  const set = (event: { preventDefault: () => void; stopPropagation: () => void }) => {
    event.preventDefault();
    event.stopPropagation();
    const address = AddressSchema.safeParse(typed.trim());
    if (!address.success) return setProblem(address.error.issues[0]?.message ?? '');
    editor.chain().extendMarkRange('link').setLink({ href: address.data }).run();
    onClose();
  };
  return (
    <Modal open onClose={onClose} title="Where do these words lead?">
      <form noValidate className="grid gap-4" onSubmit={set}>
        <TextField
          label="Address"
          value={typed}
          error={problem || undefined}
          onChange={(event) => {
            setTyped(event.target.value);
            setProblem('');
          }}
        />
        <p className="flex gap-2">
          <Button look="main" type="submit">
            Set the link
          </Button>
          {before ? (
            <Button
              look="quiet"
              onClick={() => {
                editor.chain().extendMarkRange('link').unsetLink().run();
                onClose();
              }}
            >
              Take it away
            </Button>
          ) : null}
        </p>
      </form>
    </Modal>
  );
}
