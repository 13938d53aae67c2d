import { placeholder, plainText, type Words } from '@ruta/core/elements';
import { SelectField } from '../../ui/Field';
import { Choice } from './Choice';
import { Items } from './Items';
import type { SheetProps } from './sheet';

export function StepsSheet({ element, change }: SheetProps<'steps'>) {
  return (
    <>
      <Choice
        label="Arrangement"
        value={element.arrangement}
        choices={{ column: 'Below each other', row: 'Beside each other' }}
        onChange={(arrangement) => change({ arrangement })}
      />
      <Items
        items={element.items}
        noun="step"
        nameOf={({ title }) => plainText(title)}
        make={() => ({ title: placeholder('And then'), words: placeholder('What happens.') })}
        onChange={(items) => change({ items })}
        most={12}
      />
    </>
  );
}

export function ProgressSheet({ element, change }: SheetProps<'progress'>) {
  const items = element.steps.map((words) => ({ words }));
  const keep = (next: Array<{ words: Words }>) => change({ steps: next.map(({ words }) => words), current: Math.min(element.current, next.length - 1) });
  return (
    <>
      <SelectField label="Where the visitor is" value={element.current} onChange={(event) => change({ current: Number(event.target.value) })}>
        {element.steps.map((words, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: steps have no identity of their own
          <option key={index} value={index}>
            {index + 1}. {plainText(words)}
          </option>
        ))}
      </SelectField>
      <Items
        items={items}
        noun="step"
        nameOf={({ words }) => plainText(words)}
        make={() => ({ words: placeholder('One more') })}
        onChange={keep}
        most={7}
        least={2}
      />
    </>
  );
}
