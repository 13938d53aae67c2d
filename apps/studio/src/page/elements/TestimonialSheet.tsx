import { newSaying, plainText, type Saying, type TESTIMONIAL_STYLES } from '@ruta/core/elements';
import { SelectField, TextField } from '../../ui/Field';
import { PictureChooser } from '../PictureChooser';
import { Choice } from './Choice';
import { Items } from './Items';
import type { SheetProps } from './sheet';
import { WordsField } from './WordsField';

const STYLES: Record<(typeof TESTIMONIAL_STYLES)[number], string> = {
  line: 'With a line beside it',
  card: 'On a card',
  large: 'Large, by itself',
  bubble: 'In a bubble',
  note: 'On a note',
};

/** What was said, and who said it. */
function SayingFields({ saying, change }: { saying: Saying; change: (changes: Partial<Saying>) => void }) {
  return (
    <>
      <WordsField label="What they said" words={saying.words} onChange={(words) => change({ words })} />
      <TextField label="Name" maxLength={120} value={saying.name} onChange={(event) => change({ name: event.target.value })} />
      <TextField label="Town or role" maxLength={120} value={saying.detail} onChange={(event) => change({ detail: event.target.value })} />
      <SelectField
        label="Stars"
        hint="Only if they gave some."
        value={saying.stars ?? 0}
        onChange={(event) => change({ stars: Number(event.target.value) || undefined })}
      >
        <option value={0}>None</option>
        {[5, 4, 3, 2, 1].map((stars) => (
          <option key={stars} value={stars}>
            {stars} of 5
          </option>
        ))}
      </SelectField>
      <PictureChooser label="Their picture" fileId={saying.pictureId ?? null} onChoose={(pictureId) => change({ pictureId })} />
    </>
  );
}

export function TestimonialSheet({ element, change }: SheetProps<'testimonial'>) {
  return (
    <>
      <Choice label="Style" value={element.style ?? 'line'} choices={STYLES} onChange={(style) => change({ style })} />
      <SayingFields saying={element} change={change} />
    </>
  );
}

export function TestimonialsSheet({ element, change }: SheetProps<'testimonials'>) {
  return (
    <>
      <Choice
        label="Arrangement"
        value={element.arrangement}
        choices={{ grid: 'Beside each other', wall: 'As a wall', carousel: 'One after the other' }}
        onChange={(arrangement) => change({ arrangement })}
      />
      <Choice label="Style" value={element.style} choices={STYLES} onChange={(style) => change({ style })} />
      <Items
        items={element.items}
        noun="testimonial"
        nameOf={({ name, words }) => name || plainText(words).slice(0, 40)}
        make={newSaying}
        onChange={(items) => change({ items })}
        most={40}
      >
        {(item, set) => <SayingFields saying={item} change={set} />}
      </Items>
    </>
  );
}
