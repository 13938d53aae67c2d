import { type PICTURE_SHAPES, type PictureSource, words } from '@ruta/core/elements';
import { useState } from 'react';
import { Button } from '../../ui/Button';
import { Check, SelectField, TextField } from '../../ui/Field';
import { ActionChooser } from '../ActionChooser';
import { CropDialog } from '../CropDialog';
import { DrawingChooser } from '../DrawingChooser';
import { PictureChooser } from '../PictureChooser';
import { Choice } from './Choice';
import type { SheetProps } from './sheet';

const SHAPES: Record<(typeof PICTURE_SHAPES)[number], string> = {
  natural: 'As it is',
  wide: 'Wide',
  square: 'Square',
  tall: 'Tall',
  round: 'Round',
  arch: 'Arch',
  petal: 'Petal',
  slant: 'Slanted',
};

export function PictureSheet({ element, context, change }: SheetProps<'picture'>) {
  const { source } = element;
  const kind = source?.kind ?? 'file';
  const [isCropping, setCropping] = useState(false);
  const fileId = source?.kind === 'file' ? source.fileId : null;
  const picture = fileId ? context.pictures[fileId] : undefined;
  const show = (next: PictureSource | null) => change({ source: next, crop: undefined, focus: undefined });
  return (
    <>
      <SelectField
        label="Which picture"
        value={kind}
        onChange={(event) => {
          const next = event.target.value;
          if (next === 'product' || next === 'gift') show({ kind: next });
          else show(next === 'drawing' ? { kind: 'drawing', name: 'box-open' } : null);
        }}
      >
        <option value="file">One of its own</option>
        <option value="drawing">A drawing</option>
        {context.product ? <option value="product">The product’s picture</option> : null}
        {context.gift ? <option value="gift">The gift’s picture</option> : null}
      </SelectField>
      {kind === 'file' ? <PictureChooser label="Picture" fileId={fileId} onChoose={(id) => show(id ? { kind: 'file', fileId: id } : null)} /> : null}
      {source?.kind === 'drawing' ? (
        <DrawingChooser value={source.name} brand={context.brand} onChange={(name) => change({ source: { kind: 'drawing', name } })} />
      ) : null}
      {picture ? (
        <>
          <Button look="quiet" onClick={() => setCropping(true)}>
            Crop and focus
          </Button>
          {isCropping ? (
            <CropDialog
              picture={picture}
              shape={element.shape}
              crop={element.crop}
              focus={element.focus}
              onClose={() => setCropping(false)}
              onChange={(changes) => {
                change(changes);
                setCropping(false);
              }}
            />
          ) : null}
        </>
      ) : null}
      <TextField
        label="Text alternative"
        hint="Says what the picture shows, for people who cannot see it."
        maxLength={250}
        value={element.alt}
        onChange={(event) => change({ alt: event.target.value })}
      />
      {/* What was cropped for one shape does not fit another. */}
      <Choice label="Shape" value={element.shape} choices={SHAPES} onChange={(shape) => change({ shape, crop: undefined })} />
      <Check
        label="Words below it"
        checked={element.caption !== undefined}
        onChange={(event) => change({ caption: event.target.checked ? words('What it shows') : undefined })}
      />
      <Check
        label="A press leads somewhere"
        checked={element.action !== undefined}
        onChange={(event) => change({ action: event.target.checked ? { kind: 'next' } : undefined })}
      />
      {element.action ? <ActionChooser action={element.action} onChange={(action) => change({ action })} /> : null}
    </>
  );
}
