import { type Action, placeholder, plainText } from '@ruta/core/elements';
import { Check } from '../../ui/Field';
import { ActionChooser } from '../ActionChooser';
import { Choice } from './Choice';
import { Items } from './Items';
import type { SheetProps } from './sheet';

export function NavigationSheet({ element, change }: SheetProps<'navigation'>) {
  return (
    <>
      <Check label="With the shop’s sign" checked={element.withLogo} onChange={(event) => change({ withLogo: event.target.checked })} />
      <Items
        items={element.items}
        noun="link"
        nameOf={({ label }) => plainText(label)}
        make={() => ({ label: placeholder('Link'), action: { kind: 'next' } as Action, style: 'link' as const })}
        onChange={(items) => change({ items })}
        most={9}
      >
        {(item, set) => (
          <>
            <ActionChooser action={item.action} onChange={(action) => set({ action })} />
            <Choice label="Look" value={item.style} choices={{ link: 'Link', button: 'Button' }} onChange={(style) => set({ style })} />
          </>
        )}
      </Items>
    </>
  );
}
