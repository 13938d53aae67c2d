import { Choice } from './Choice';
import type { SheetProps } from './sheet';

export function TextSheet({ element, change }: SheetProps<'text'>) {
  return (
    <Choice
      label="Style"
      value={element.style}
      choices={{ body: 'Running text', lead: 'Lead, larger', small: 'Small', eyebrow: 'Line above a headline' }}
      onChange={(style) => change({ style })}
    />
  );
}
