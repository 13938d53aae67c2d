import { TextField } from '../../ui/Field';
import type { SheetProps } from './sheet';

export function TestimonialSheet({ element, change }: SheetProps<'testimonial'>) {
  return (
    <>
      <TextField label="Name" maxLength={120} value={element.name} onChange={(event) => change({ name: event.target.value })} />
      <TextField label="Town or role" maxLength={120} value={element.detail} onChange={(event) => change({ detail: event.target.value })} />
    </>
  );
}
