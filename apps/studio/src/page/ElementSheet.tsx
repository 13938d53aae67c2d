import {
  BOUND_VALUES,
  type BoundValue,
  bindName,
  type ElementOf,
  type ElementType,
  type PageElement,
  saysPlainly,
  wordPlaces,
  wordsAt,
} from '@ruta/core/elements';
import type { Operation } from '@ruta/core/page';
import type { PageContext } from '@ruta/pages';
import type { ComponentType } from 'react';
import { Button } from '../ui/Button';
import { AppointmentSheet } from './elements/AppointmentSheet';
import { ButtonSheet } from './elements/ButtonSheet';
import { ComparisonSheet } from './elements/ComparisonSheet';
import { CountdownSheet } from './elements/CountdownSheet';
import { FaqSheet } from './elements/FaqSheet';
import { HeadlineSheet } from './elements/HeadlineSheet';
import { HtmlSheet } from './elements/HtmlSheet';
import { BadgesSheet, IconListSheet } from './elements/IconListSheet';
import { ListSheet } from './elements/ListSheet';
import { LogosSheet } from './elements/LogosSheet';
import { NavigationSheet } from './elements/NavigationSheet';
import { note, nothing } from './elements/Note';
import { OffersSheet } from './elements/OffersSheet';
import { OrderFormSheet } from './elements/OrderFormSheet';
import { PictureSheet } from './elements/PictureSheet';
import { PriceTableSheet } from './elements/PriceTableSheet';
import { ProductSheet } from './elements/ProductSheet';
import { ShareSheet } from './elements/ShareSheet';
import { SpacerSheet } from './elements/SpacerSheet';
import { ProgressSheet, StepsSheet } from './elements/StepsSheet';
import type { SheetProps } from './elements/sheet';
import { TestimonialSheet, TestimonialsSheet } from './elements/TestimonialSheet';
import { TextSheet } from './elements/TextSheet';
import { VideoSheet } from './elements/VideoSheet';
import { FormFields } from './FormFields';
import { unfilledWords } from './unfilled';
import { insertBound } from './WordsEditor';
import { setAt } from './words';

/** The settings of each type of element; the compiler names one that is missing. */
const SHEETS: { [Type in ElementType]: ComponentType<SheetProps<Type>> } = {
  headline: HeadlineSheet,
  text: TextSheet,
  picture: PictureSheet,
  button: ButtonSheet,
  list: ListSheet,
  testimonial: TestimonialSheet,
  faq: FaqSheet,
  price: note('Shows the price of this stop’s product, and the old one struck through while it is on sale.'),
  product: ProductSheet,
  form: FormFields,
  'order-form': OrderFormSheet,
  'order-summary': note('Shows what is in the order, worked out by the same sums as the payment.'),
  offers: OffersSheet,
  countdown: CountdownSheet,
  receipt: note('Shows what was bought and paid, to the buyer only.'),
  downloads: note('Shows the files that came with the order, with links that end after a day and are made fresh at every visit.'),
  guarantee: nothing,
  logo: note('Shows the shop’s sign, or its name in the brand’s headline type.'),
  divider: nothing,
  spacer: SpacerSheet,
  appointment: AppointmentSheet,
  badges: BadgesSheet,
  comparison: ComparisonSheet,
  html: HtmlSheet,
  'icon-list': IconListSheet,
  logos: LogosSheet,
  navigation: NavigationSheet,
  'price-table': PriceTableSheet,
  progress: ProgressSheet,
  share: ShareSheet,
  steps: StepsSheet,
  testimonials: TestimonialsSheet,
  video: VideoSheet,
};

/** Settings of one element; its words are edited on the page itself. */
export function ElementSheet({ element, context, apply }: { element: PageElement; context: PageContext; apply: (operation: Operation) => void }) {
  const change = (changes: Record<string, unknown>) => apply({ kind: 'changeElement', elementId: element.id, changes });
  const Sheet = SHEETS[element.type] as ComponentType<{ element: PageElement; context: PageContext; change: typeof change }>;
  return (
    <div className="grid gap-3">
      <Sheet element={element} context={context} change={change} />
      {unfilledWords(element, context).map((words) => (
        <p key={words} className="rounded-md bg-info-tint px-3 py-2">
          {words}
        </p>
      ))}
      <PlainName element={element} name={context.product?.name ?? ''} apply={apply} />
      {'words' in element ? <BoundChips words={element.words} change={change} /> : null}
    </div>
  );
}

/** The product's name, typed as plain words, stays behind when the product changes; one click binds it. */
function PlainName({ element, name, apply }: { element: PageElement; name: string; apply: (operation: Operation) => void }) {
  if (!saysPlainly(element, name)) return null;
  const bind = () => {
    // One place after the other, so that places within one list do not undo each other.
    const bound = { ...element };
    for (const path of wordPlaces(element)) Object.assign(bound, setAt(bound, path, bindName(wordsAt(bound, path), name, 'product.name')));
    const { id: _id, type: _type, ...changes } = bound;
    apply({ kind: 'changeElement', elementId: element.id, changes });
  };
  return (
    <div className="rounded-md bg-info-tint px-3 py-2 grid gap-2 justify-items-start">
      <p>“{name}” is typed here. Bound, it follows when the product changes.</p>
      <Button onClick={bind}>Bind it to the product</Button>
    </div>
  );
}

/** Buttons that put a value into the words which follows the product, the buyer or the shop. */
function BoundChips({ words: content, change }: { words: ElementOf<'text'>['words']; change: (changes: Record<string, unknown>) => void }) {
  return (
    <div>
      <p className="font-semibold mb-1">Say what is bound</p>
      <p className="text-soft mb-2">Follows the product, the buyer or the shop by itself.</p>
      <div className="flex flex-wrap gap-1.5">
        {(Object.entries(BOUND_VALUES) as Array<[BoundValue, string]>).map(([value, name]) => (
          <button
            key={value}
            type="button"
            className="rounded-md bg-info-tint text-info font-semibold px-2 py-0.5 hover:outline-2 hover:outline-info"
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => {
              if (!insertBound(value)) change({ words: [...content, { type: 'bound', value }] });
            }}
          >
            {name}
          </button>
        ))}
      </div>
    </div>
  );
}
