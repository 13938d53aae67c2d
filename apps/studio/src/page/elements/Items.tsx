import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button, IconButton } from '../../ui/Button';

interface ItemsProps<T> {
  items: readonly T[];
  /** What one of them is called on the screen: `line`, `card`. */
  noun: string;
  nameOf: (item: T, index: number) => string;
  make: () => T;
  onChange: (items: T[]) => void;
  most: number;
  least?: number;
  children?: (item: T, set: (changes: Partial<T>) => void, index: number) => ReactNode;
}

/** A list inside an element: add, order and remove its items, each with its own settings. Words are typed on the page. */
export function Items<T extends object>({ items, noun, nameOf, make, onChange, most, least = 1, children }: ItemsProps<T>) {
  const move = (index: number, by: number) => onChange(items.toSpliced(index, 1).toSpliced(index + by, 0, items[index] as T));
  return (
    <>
      <ol className="grid gap-2">
        {items.map((item, index) => {
          const name = nameOf(item, index) || `${noun} ${index + 1}`;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: items have no identity of their own
            <li key={index} className="rounded-md border border-line p-2 grid gap-2">
              <div className="flex items-center">
                <span className="mr-auto line-clamp-1 wrap-anywhere font-semibold">{name}</span>
                <IconButton name={`Move “${name}” up`} disabled={index === 0} onClick={() => move(index, -1)}>
                  <ArrowUp size={14} />
                </IconButton>
                <IconButton name={`Move “${name}” down`} disabled={index === items.length - 1} onClick={() => move(index, 1)}>
                  <ArrowDown size={14} />
                </IconButton>
                <IconButton name={`Remove “${name}”`} disabled={items.length <= least} onClick={() => onChange(items.toSpliced(index, 1))}>
                  <Trash2 size={14} />
                </IconButton>
              </div>
              {children?.(item, (changes) => onChange(items.with(index, { ...item, ...changes })), index)}
            </li>
          );
        })}
      </ol>
      <Button disabled={items.length >= most} onClick={() => onChange([...items, make()])}>
        <Plus size={15} aria-hidden="true" /> Add a {noun}
      </Button>
    </>
  );
}
