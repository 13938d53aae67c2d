import type { Operation, Section } from '@ruta/core/page';
import { SelectField, TextField } from '../ui/Field';
import { PictureChooser } from './PictureChooser';

export function SectionSheet({ section, apply }: { section: Section; apply: (operation: Operation) => void }) {
  const change = (changes: Partial<Omit<Section, 'id' | 'columns'>>) => apply({ kind: 'changeSection', sectionId: section.id, changes });
  return (
    <div className="grid gap-3">
      <TextField
        label="Name"
        hint="Only your team sees it."
        value={section.name}
        maxLength={60}
        error={section.name.trim() === '' ? 'Give the section a name.' : undefined}
        onChange={(event) => change({ name: event.target.value })}
      />
      <SelectField label="Ground" value={section.ground} onChange={(event) => change({ ground: event.target.value as Section['ground'] })}>
        <option value="plain">Ground</option>
        <option value="tint">A little darker</option>
        <option value="sheet">A little lighter</option>
        <option value="dark">Main colour</option>
      </SelectField>
      <SelectField label="Space above and below" value={section.space} onChange={(event) => change({ space: event.target.value as Section['space'] })}>
        <option value="tight">Tight</option>
        <option value="normal">Normal</option>
        <option value="wide">Wide</option>
      </SelectField>
      <SelectField label="Alignment" value={section.align} onChange={(event) => change({ align: event.target.value as Section['align'] })}>
        <option value="start">To the left</option>
        <option value="center">Centred</option>
      </SelectField>
      <SelectField label="Width" value={section.width} onChange={(event) => change({ width: event.target.value as Section['width'] })}>
        <option value="normal">Normal</option>
        <option value="narrow">Narrow, for reading</option>
      </SelectField>
      <PictureChooser label="Picture behind it" fileId={section.backdropId} onChoose={(backdropId) => change({ backdropId })} />
    </div>
  );
}
