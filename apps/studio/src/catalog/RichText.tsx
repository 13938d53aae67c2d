import Bold from '@tiptap/extension-bold';
import Document from '@tiptap/extension-document';
import HardBreak from '@tiptap/extension-hard-break';
import Italic from '@tiptap/extension-italic';
import LinkMark from '@tiptap/extension-link';
import { BulletList, ListItem, ListKeymap, OrderedList } from '@tiptap/extension-list';
import Paragraph from '@tiptap/extension-paragraph';
import Text from '@tiptap/extension-text';
import { type Editor, EditorContent, useEditor, useEditorState } from '@tiptap/react';
import { Bold as BoldIcon, Italic as ItalicIcon, Link2, List, ListOrdered, type LucideIcon } from 'lucide-react';
import { useId, useState } from 'react';
import { Button } from '../ui/Button';
import { TextField } from '../ui/Field';

/** A text with paragraphs, lists, bold, italic and links, kept as simple HTML. */
export function RichText(props: { label: string; hint: string; html: string; error?: string | undefined; onChange: (html: string) => void }) {
  const id = useId();
  const editor = useEditor({
    extensions: [
      Document,
      Paragraph,
      Text,
      Bold,
      Italic,
      HardBreak,
      BulletList,
      OrderedList,
      ListItem,
      ListKeymap,
      LinkMark.configure({ openOnClick: false, autolink: true, protocols: ['http', 'https', 'mailto'] }),
    ],
    content: props.html,
    injectCSS: false,
    editorProps: {
      attributes: { class: 'rich-text', 'aria-labelledby': `${id}-label`, 'aria-describedby': `${id}-hint`, role: 'textbox', 'aria-multiline': 'true' },
    },
    onUpdate: ({ editor: updated }) => props.onChange(updated.isEmpty ? '' : updated.getHTML()),
  });
  return (
    <div>
      <span id={`${id}-label`} className="block font-semibold mb-1">
        {props.label}
      </span>
      <div className={`rounded-md border bg-white ${props.error ? 'border-stop border-2' : 'border-[#98a5a1]'}`}>
        {editor ? <Tools editor={editor} /> : null}
        <EditorContent editor={editor} />
      </div>
      {props.error ? (
        <p role="alert" className="mt-1 text-stop font-semibold">
          {props.error}
        </p>
      ) : null}
      <p id={`${id}-hint`} className="mt-1 text-soft">
        {props.hint}
      </p>
    </div>
  );
}

function Tools({ editor }: { editor: Editor }) {
  const [linking, setLinking] = useState<string | null>(null);
  const active = useEditorState({
    editor,
    selector: ({ editor: now }) => ({
      bold: now.isActive('bold'),
      italic: now.isActive('italic'),
      bullets: now.isActive('bulletList'),
      numbers: now.isActive('orderedList'),
      link: now.isActive('link'),
    }),
  });
  const tool = (name: string, Icon: LucideIcon, isOn: boolean, act: () => void) => (
    <button
      type="button"
      aria-label={name}
      title={name}
      aria-pressed={isOn}
      onClick={act}
      className={`grid place-items-center size-8 rounded-md ${isOn ? 'bg-way-tint text-ink' : 'text-soft hover:bg-band'}`}
    >
      <Icon size={16} />
    </button>
  );
  const setLink = (url: string) => {
    const chain = editor.chain().focus().extendMarkRange('link');
    if (url.trim() === '') chain.unsetLink().run();
    else chain.setLink({ href: url.trim() }).run();
    setLinking(null);
  };
  return (
    <div className="border-b border-line px-1.5 py-1">
      <div className="flex gap-0.5" role="toolbar" aria-label="Style of the text">
        {tool('Bold', BoldIcon, active.bold, () => editor.chain().focus().toggleBold().run())}
        {tool('Italic', ItalicIcon, active.italic, () => editor.chain().focus().toggleItalic().run())}
        {tool('List', List, active.bullets, () => editor.chain().focus().toggleBulletList().run())}
        {tool('Numbered list', ListOrdered, active.numbers, () => editor.chain().focus().toggleOrderedList().run())}
        {tool('Link', Link2, active.link, () => setLinking(String(editor.getAttributes('link').href ?? 'https://')))}
      </div>
      {linking === null ? null : (
        <div className="flex gap-2 items-end px-1.5 py-2">
          <div className="flex-1">
            <TextField
              label="Where it leads"
              value={linking}
              onChange={(event) => setLinking(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === 'Enter') {
                  event.preventDefault();
                  setLink(linking);
                }
                if (event.key === 'Escape') setLinking(null);
              }}
            />
          </div>
          <Button onClick={() => setLink(linking)}>Set the link</Button>
        </div>
      )}
    </div>
  );
}
