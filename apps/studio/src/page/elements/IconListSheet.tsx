import { placeholder, plainText } from '@ruta/core/elements';
import { Choice } from './Choice';
import { IconChooser } from './IconChooser';
import { Items } from './Items';
import type { SheetProps } from './sheet';

export function IconListSheet({ element, change }: SheetProps<'icon-list'>) {
  return (
    <>
      <Choice
        label="Arrangement"
        value={element.arrangement}
        choices={{ rows: 'Below each other', grid: 'Beside each other', line: 'In one line' }}
        onChange={(arrangement) => change({ arrangement })}
      />
      <Choice label="Icons" value={element.look} choices={{ disc: 'On a disc', outline: 'Outlined', plain: 'Plain' }} onChange={(look) => change({ look })} />
      <Items
        items={element.items}
        noun="line"
        nameOf={({ title }) => plainText(title)}
        make={() => ({ icon: 'check' as const, title: placeholder('One more'), words: placeholder('What it means.') })}
        onChange={(items) => change({ items })}
        most={24}
      >
        {(item, set) => <IconChooser value={item.icon} onChange={(icon) => set({ icon })} />}
      </Items>
    </>
  );
}

export function BadgesSheet({ element, change }: SheetProps<'badges'>) {
  return (
    <Items
      items={element.items}
      noun="badge"
      nameOf={({ words }) => plainText(words)}
      make={() => ({ icon: 'shield-check' as const, words: placeholder('A reason to trust') })}
      onChange={(items) => change({ items })}
      most={8}
    >
      {(item, set) => <IconChooser value={item.icon} onChange={(icon) => set({ icon })} />}
    </Items>
  );
}
