import { Choice } from './Choice';
import type { SheetProps } from './sheet';

export function SpacerSheet({ element, change }: SheetProps<'spacer'>) {
  return <Choice label="Height" value={element.size} choices={{ small: 'Small', medium: 'Medium', large: 'Large' }} onChange={(size) => change({ size })} />;
}
