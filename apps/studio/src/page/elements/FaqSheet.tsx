import { newQuestion } from '@ruta/core/elements';
import { Plus, Trash2 } from 'lucide-react';
import { Button, IconButton } from '../../ui/Button';
import { TextField } from '../../ui/Field';
import type { SheetProps } from './sheet';
import { WordsField } from './WordsField';

export function FaqSheet({ element, change }: SheetProps<'faq'>) {
  return (
    <>
      {element.items.map((item, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: questions have no identity of their own
        <div key={index} className="flex items-start gap-1 border-b border-line pb-3">
          <div className="flex-1 grid gap-2">
            <TextField
              label={`Question ${index + 1}`}
              maxLength={200}
              value={item.question}
              error={item.question === '' ? 'Write the question.' : undefined}
              onChange={(event) => change({ items: element.items.with(index, { ...item, question: event.target.value }) })}
            />
            <WordsField
              label={`Answer ${index + 1}`}
              words={item.answer}
              onChange={(answer) => change({ items: element.items.with(index, { ...item, answer }) })}
            />
          </div>
          <IconButton
            name={`Remove question ${index + 1}`}
            disabled={element.items.length < 2}
            onClick={() => change({ items: element.items.toSpliced(index, 1) })}
          >
            <Trash2 size={15} />
          </IconButton>
        </div>
      ))}
      <Button onClick={() => change({ items: [...element.items, newQuestion()] })}>
        <Plus size={15} aria-hidden="true" /> Add a question
      </Button>
    </>
  );
}
