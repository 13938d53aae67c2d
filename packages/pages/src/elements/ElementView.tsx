import type { ElementOf, ElementType, PageElement } from '@ruta/core/elements';
import type { ComponentType } from 'react';
import { ButtonView } from './ButtonView';
import { CountdownView } from './CountdownView';
import { DividerView } from './DividerView';
import { DownloadsView } from './DownloadsView';
import { FaqView } from './FaqView';
import { FormView } from './FormView';
import { GuaranteeView } from './GuaranteeView';
import { HeadlineView } from './HeadlineView';
import { ListView } from './ListView';
import { LogoView } from './LogoView';
import { OffersView } from './OffersView';
import { OrderFormView } from './OrderFormView';
import { OrderSummaryView } from './OrderSummaryView';
import { PictureView } from './PictureView';
import { PriceView } from './PriceView';
import { ProductView } from './ProductView';
import { ReceiptView } from './ReceiptView';
import { SpacerView } from './SpacerView';
import { TestimonialView } from './TestimonialView';
import { TextView } from './TextView';

/** How each type of element looks; the compiler names one that is missing. */
const VIEWS: { [Type in ElementType]: ComponentType<{ element: ElementOf<Type> }> } = {
  headline: HeadlineView,
  text: TextView,
  picture: PictureView,
  button: ButtonView,
  list: ListView,
  testimonial: TestimonialView,
  faq: FaqView,
  price: PriceView,
  product: ProductView,
  form: FormView,
  'order-form': OrderFormView,
  'order-summary': OrderSummaryView,
  offers: OffersView,
  countdown: CountdownView,
  receipt: ReceiptView,
  downloads: DownloadsView,
  guarantee: GuaranteeView,
  logo: LogoView,
  divider: DividerView,
  spacer: SpacerView,
};

/** One element of a page, whatever its type. */
export function ElementView({ element }: { element: PageElement }) {
  const View = VIEWS[element.type] as ComponentType<{ element: PageElement }>;
  return <View element={element} />;
}
