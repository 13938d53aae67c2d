import type { PictureInfo } from '@ruta/core/catalog';
import { BUMP_COLOURS, BUMP_LAYOUTS, BUMP_POSITIONS, type BumpLook } from '@ruta/core/offers';
import { useState } from 'react';
import { PictureChooser } from '../page/PictureChooser';
import { Check, SelectField } from '../ui/Field';
import { Notice } from '../ui/Notice';

type PictureKind = 'product' | 'file' | 'none';

interface FieldsProps {
  look: BumpLook;
  onChange: (look: BumpLook) => void;
  onUploaded: (picture: PictureInfo) => void;
}

/** Where a bump stands and how it looks. */
export function BumpLookFields({ look, onChange, onUploaded }: FieldsProps) {
  // Chosen before there is one: until it is uploaded the bump has none.
  const [wantsOwn, setWantsOwn] = useState(false);
  const kind: PictureKind = look.picture?.kind ?? (wantsOwn ? 'file' : 'none');
  const choosePicture = (next: PictureKind) => {
    setWantsOwn(next === 'file');
    onChange({ ...look, picture: next === 'product' ? { kind: 'product' } : null });
  };
  const choice = <Key extends 'position' | 'layout' | 'colours'>(key: Key, label: string, names: Record<BumpLook[Key], string>) => (
    <SelectField label={label} value={look[key]} onChange={(event) => onChange({ ...look, [key]: event.target.value as BumpLook[Key] })}>
      {Object.entries<string>(names).map(([value, name]) => (
        <option key={value} value={value}>
          {name}
        </option>
      ))}
    </SelectField>
  );
  return (
    <div className="grid gap-3">
      <div className="grid sm:grid-cols-3 gap-3 items-start">
        {choice('position', 'Where', BUMP_POSITIONS)}
        {choice('layout', 'Layout', BUMP_LAYOUTS)}
        {choice('colours', 'Colours', BUMP_COLOURS)}
      </div>
      <div className="grid sm:grid-cols-3 gap-3 items-start">
        <SelectField label="Picture" value={kind} onChange={(event) => choosePicture(event.target.value as PictureKind)}>
          <option value="product">The product’s</option>
          <option value="file">Its own</option>
          <option value="none">None</option>
        </SelectField>
        {kind === 'file' ? (
          <PictureChooser
            label="Its own picture"
            fileId={look.picture?.kind === 'file' ? look.picture.fileId : null}
            onUploaded={onUploaded}
            onChoose={(fileId) => {
              setWantsOwn(fileId === null);
              onChange({ ...look, picture: fileId ? { kind: 'file', fileId } : null });
            }}
          />
        ) : null}
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-1">
        <Check label="A pointer that draws the eye" checked={look.pointer} onChange={(event) => onChange({ ...look, pointer: event.target.checked })} />
        <Check label="Ticked beforehand" checked={look.ticked} onChange={(event) => onChange({ ...look, ticked: event.target.checked })} />
      </div>
      {look.ticked ? (
        <Notice tone="care">
          <strong>Many countries forbid this for consumers</strong>, among them all of the European Union and the United Kingdom: who did not tick it may ask
          their money back.
        </Notice>
      ) : null}
    </div>
  );
}
