import { SelectField, TextField } from '../../ui/Field';
import { PictureChooser } from '../PictureChooser';
import { Choice } from './Choice';
import type { SheetProps } from './sheet';

export function PictureSheet({ element, context, change }: SheetProps<'picture'>) {
  const { source } = element;
  const kind = source?.kind ?? 'file';
  return (
    <>
      <SelectField
        label="Which picture"
        value={kind}
        onChange={(event) => {
          const next = event.target.value;
          change({ source: next === 'product' || next === 'gift' ? { kind: next } : null });
        }}
      >
        <option value="file">One of its own</option>
        {context.product ? <option value="product">The product’s picture</option> : null}
        {context.gift ? <option value="gift">The gift’s picture</option> : null}
      </SelectField>
      {kind === 'file' ? (
        <PictureChooser
          label="Picture"
          fileId={source?.kind === 'file' ? source.fileId : null}
          onChoose={(fileId) => change({ source: fileId ? { kind: 'file', fileId } : null })}
        />
      ) : null}
      <TextField
        label="Text alternative"
        hint="Says what the picture shows, for people who cannot see it."
        maxLength={250}
        value={element.alt}
        onChange={(event) => change({ alt: event.target.value })}
      />
      <Choice
        label="Shape"
        value={element.shape}
        choices={{ natural: 'As it is', wide: 'Wide', square: 'Square', round: 'Round' }}
        onChange={(shape) => change({ shape })}
      />
    </>
  );
}
