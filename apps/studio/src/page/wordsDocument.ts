import { AddressSchema, type BoundValue, type Inline, type Words } from '@ruta/core/elements';
import type { JSONContent } from '@tiptap/core';

/** Words as the text editor's document: one paragraph with marks, bound values as single pieces. */
export function toEditor(words: Words): JSONContent {
  const content = words.map((node): JSONContent => {
    if (node.type === 'break') return { type: 'hardBreak' };
    if (node.type === 'bound') return { type: 'bound', attrs: { value: node.value, fallback: node.fallback ?? null } };
    const marks = [
      ...(node.bold ? [{ type: 'bold' }] : []),
      ...(node.italic ? [{ type: 'italic' }] : []),
      ...(node.link ? [{ type: 'link', attrs: { href: node.link } }] : []),
    ];
    return { type: 'text', text: node.text, ...(marks.length > 0 ? { marks } : {}) };
  });
  return { type: 'doc', content: [{ type: 'paragraph', content }] };
}

/** The inverse of `toEditor`; several paragraphs, as pasted text may bring, become lines. */
export function fromEditor(document: JSONContent): Words {
  const words: Inline[] = [];
  for (const [index, paragraph] of (document.content ?? []).entries()) {
    if (index > 0) words.push({ type: 'break' });
    for (const node of paragraph.content ?? []) {
      if (node.type === 'hardBreak') words.push({ type: 'break' });
      else if (node.type === 'bound') {
        const fallback = node.attrs?.fallback as string | null | undefined;
        words.push({ type: 'bound', value: node.attrs?.value as BoundValue, ...(fallback === null || fallback === undefined ? {} : { fallback }) });
      } else if (node.type === 'text' && node.text) {
        const has = (mark: string) => node.marks?.some((candidate) => candidate.type === mark);
        const link = AddressSchema.safeParse(node.marks?.find((candidate) => candidate.type === 'link')?.attrs?.href).data;
        words.push({
          type: 'text',
          text: node.text,
          ...(has('bold') ? { bold: true } : {}),
          ...(has('italic') ? { italic: true } : {}),
          ...(link ? { link } : {}),
        });
      }
    }
  }
  return words;
}
