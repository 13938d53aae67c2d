import { type Inline, plainText, type Words } from '@ruta/core/elements';
import { TextArea } from '../../ui/Field';

/** Whether words are text and lines alone, so that they can be typed in a plain field and nothing of them is lost. */
const isPlain = (words: Words): boolean => words.every((node) => node.type === 'break' || (node.type === 'text' && !node.bold && !node.italic && !node.link));

const typed = (words: Words): string => words.map((node) => (node.type === 'break' ? '\n' : node.type === 'text' ? node.text : '')).join('');

const asWords = (text: string): Words =>
  text
    .split('\n')
    .flatMap((line, index): Inline[] => [...(index > 0 ? [{ type: 'break' as const }] : []), ...(line ? [{ type: 'text' as const, text: line }] : [])]);

/** Words of the page in its sheet, so that they can be read and typed there whatever hides them on the page. */
export function WordsField({ label, words, onChange }: { label: string; words: Words; onChange: (words: Words) => void }) {
  if (isPlain(words)) return <TextArea label={label} rows={3} value={typed(words)} onChange={(event) => onChange(asWords(event.target.value))} />;
  return (
    <div>
      <p className="font-semibold">{label}</p>
      <p className="whitespace-pre-line wrap-anywhere">{plainText(words)}</p>
      <p className="text-soft">Has bold text, links or live values: click it on the page to edit it.</p>
    </div>
  );
}
