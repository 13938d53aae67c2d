import { SelectField } from '../../ui/Field';
import { Choice } from './Choice';
import type { SheetProps } from './sheet';

export function HeadlineSheet({ element, change }: SheetProps<'headline'>) {
  return (
    <>
      <SelectField label="Level" value={element.level} onChange={(event) => change({ level: Number(event.target.value) as 1 | 2 | 3 })}>
        <option value={1}>Main headline (h1)</option>
        <option value={2}>Section headline (h2)</option>
        <option value={3}>Small headline (h3)</option>
      </SelectField>
      <Choice label="Size" value={element.size} choices={{ large: 'Large', medium: 'Medium', small: 'Small' }} onChange={(size) => change({ size })} />
    </>
  );
}
