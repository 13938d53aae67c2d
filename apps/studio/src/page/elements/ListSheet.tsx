import { placeholder, plainText } from '@ruta/core/elements';
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { Button, IconButton } from '../../ui/Button';
import { Choice } from './Choice';
import type { SheetProps } from './sheet';

export function ListSheet({ element, change }: SheetProps<'list'>) {
  const { items } = element;
  const swapped = (index: number) => items.with(index, items[index + 1] ?? []).with(index + 1, items[index] ?? []);
  return (
    <>
      <Choice
        label="Mark"
        value={element.marker}
        choices={{ check: 'Check marks', dot: 'Dots', number: 'Numbers' }}
        onChange={(marker) => change({ marker })}
      />
      <ol className="grid gap-1">
        {items.map((item, index) => {
          const name = plainText(item) || `line ${index + 1}`;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines have no identity of their own
            <li key={index} className="flex items-center rounded-md border border-line pl-2">
              <span className="mr-auto line-clamp-1 wrap-anywhere">{name}</span>
              <IconButton name={`Move “${name}” up`} disabled={index === 0} onClick={() => change({ items: swapped(index - 1) })}>
                <ArrowUp size={14} />
              </IconButton>
              <IconButton name={`Move “${name}” down`} disabled={index === items.length - 1} onClick={() => change({ items: swapped(index) })}>
                <ArrowDown size={14} />
              </IconButton>
              <IconButton name={`Remove “${name}”`} disabled={items.length < 2} onClick={() => change({ items: items.toSpliced(index, 1) })}>
                <Trash2 size={14} />
              </IconButton>
            </li>
          );
        })}
      </ol>
      <Button onClick={() => change({ items: [...items, placeholder('One more')] })}>
        <Plus size={15} aria-hidden="true" /> Add a line
      </Button>
      <p className="text-soft">On the page, Enter begins the next line and Shift Enter breaks one.</p>
    </>
  );
}
