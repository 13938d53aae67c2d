import { words } from '@ruta/core/elements';
import { Plus } from 'lucide-react';
import { Button } from '../../ui/Button';
import { Choice } from './Choice';
import type { SheetProps } from './sheet';

export function ListSheet({ element, change }: SheetProps<'list'>) {
  return (
    <>
      <Choice
        label="Mark"
        value={element.marker}
        choices={{ check: 'Check marks', dot: 'Dots', number: 'Numbers' }}
        onChange={(marker) => change({ marker })}
      />
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => change({ items: [...element.items, words('One more')] })}>
          <Plus size={15} aria-hidden="true" /> Add a line
        </Button>
        <Button disabled={element.items.length < 2} onClick={() => change({ items: element.items.slice(0, -1) })}>
          Remove the last
        </Button>
      </div>
    </>
  );
}
