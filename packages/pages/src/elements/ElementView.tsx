import type { PageElement } from '@ruta/core';
import { usePage } from '../context';
import { ButtonView } from './ButtonView';
import { DownloadsView } from './DownloadsView';
import { FormView } from './FormView';
import { OrderFormView } from './OrderFormView';
import { OrderSummaryView } from './OrderSummaryView';
import { PictureView } from './PictureView';
import { PriceView } from './PriceView';
import { ProductView } from './ProductView';
import { ReceiptView } from './ReceiptView';
import { FaqView, GuaranteeView, HeadlineView, ListView, TestimonialView, TextView } from './wordElements';

/** One element of a page, whatever its type. A new element is one more file and one more line here. */
export function ElementView({ element }: { element: PageElement }) {
  const { context } = usePage();
  switch (element.type) {
    case 'headline':
      return <HeadlineView element={element} />;
    case 'text':
      return <TextView element={element} />;
    case 'list':
      return <ListView element={element} />;
    case 'testimonial':
      return <TestimonialView element={element} />;
    case 'faq':
      return <FaqView element={element} />;
    case 'guarantee':
      return <GuaranteeView element={element} />;
    case 'picture':
      return <PictureView element={element} />;
    case 'button':
      return <ButtonView element={element} />;
    case 'product':
      return <ProductView element={element} />;
    case 'price':
      return <PriceView element={element} />;
    case 'form':
      return <FormView element={element} />;
    case 'order-form':
      return <OrderFormView element={element} />;
    case 'order-summary':
      return <OrderSummaryView element={element} />;
    case 'receipt':
      return <ReceiptView element={element} />;
    case 'downloads':
      return <DownloadsView element={element} />;
    case 'logo':
      return <div className="logo">{context.shop.name}</div>;
    case 'divider':
      return <hr className="divider" />;
    case 'spacer':
      return <div className={`spacer spacer-${element.size}`} aria-hidden="true" />;
  }
}
