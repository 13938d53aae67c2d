import { ActionChooser } from '../ActionChooser';
import { Choice } from './Choice';
import type { SheetProps } from './sheet';

export function ButtonSheet({ element, change }: SheetProps<'button'>) {
  return (
    <>
      <ActionChooser action={element.action} onChange={(action) => change({ action })} />
      <Choice
        label="Look"
        value={element.style}
        choices={{ main: 'Main', quiet: 'Quiet, outlined', link: 'Plain link' }}
        onChange={(style) => change({ style })}
      />
    </>
  );
}
