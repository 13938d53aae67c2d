import { Check, TextField } from '../../ui/Field';
import { PictureChooser } from '../PictureChooser';
import { Items } from './Items';
import type { SheetProps } from './sheet';

export function LogosSheet({ element, change }: SheetProps<'logos'>) {
  return (
    <>
      <Check label="In their own colours" checked={element.inColour} onChange={(event) => change({ inColour: event.target.checked })} />
      <Items
        items={element.items}
        noun="logo"
        nameOf={({ name }) => name}
        make={() => ({ name: 'One more', pictureId: null })}
        onChange={(items) => change({ items })}
        most={20}
      >
        {(item, set) => (
          <>
            <TextField
              label="Name"
              maxLength={80}
              value={item.name}
              error={item.name.trim() === '' ? 'Say whose sign this is.' : undefined}
              onChange={(event) => set({ name: event.target.value })}
            />
            <PictureChooser label="Picture" fileId={item.pictureId} onChoose={(pictureId) => set({ pictureId })} />
          </>
        )}
      </Items>
    </>
  );
}
