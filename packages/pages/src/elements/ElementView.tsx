import type { ElementOf, ElementType, PageElement } from '@ruta/core/elements';
import { type ComponentType, memo } from 'react';
import { usePage } from '../context';
import { layoutClasses } from '../layout';
import { isUnfilled } from '../unfilled';
import { AppointmentView } from './AppointmentView';
import { BadgesView } from './BadgesView';
import { ButtonView } from './ButtonView';
import { ComparisonView } from './ComparisonView';
import { CountdownView } from './CountdownView';
import { DividerView } from './DividerView';
import { DownloadsView } from './DownloadsView';
import { FaqView } from './FaqView';
import { FormView } from './FormView';
import { GuaranteeView } from './GuaranteeView';
import { HeadlineView } from './HeadlineView';
import { HtmlView } from './HtmlView';
import { IconListView } from './IconListView';
import { ListView } from './ListView';
import { LogosView } from './LogosView';
import { LogoView } from './LogoView';
import { NavigationView } from './NavigationView';
import { OffersView } from './OffersView';
import { OrderFormView } from './OrderFormView';
import { OrderSummaryView } from './OrderSummaryView';
import { PictureView } from './PictureView';
import { PriceTableView } from './PriceTableView';
import { PriceView } from './PriceView';
import { ProductView } from './ProductView';
import { ProgressView } from './ProgressView';
import { ReceiptView } from './ReceiptView';
import { ShareView } from './ShareView';
import { SpacerView } from './SpacerView';
import { StepsView } from './StepsView';
import { TestimonialsView } from './TestimonialsView';
import { TestimonialView } from './TestimonialView';
import { TextView } from './TextView';
import { VideoView } from './VideoView';

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
  video: VideoView,
  testimonials: TestimonialsView,
  steps: StepsView,
  share: ShareView,
  progress: ProgressView,
  'price-table': PriceTableView,
  navigation: NavigationView,
  logos: LogosView,
  'icon-list': IconListView,
  html: HtmlView,
  comparison: ComparisonView,
  badges: BadgesView,
  appointment: AppointmentView,
};

/** One element of a page, whatever its type, standing as its layout says. While it is edited its frame stands so. */
export const ElementView = memo(function ElementView({ element }: { element: PageElement }) {
  const { edit, context } = usePage();
  const View = VIEWS[element.type] as ComponentType<{ element: PageElement }>;
  const classes = edit?.framesLayout ? '' : layoutClasses(element.layout);
  if (!edit?.framesLayout && isUnfilled(element, context)) return null;
  return classes ? (
    <div className={classes}>
      <View element={element} />
    </div>
  ) : (
    <View element={element} />
  );
});
