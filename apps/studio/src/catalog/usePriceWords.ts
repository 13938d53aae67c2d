import { PriceSchema, priceWords } from '@ruta/core/catalog';
import { shopApi } from '../shop/api';
import { type PriceDraft, readPrice } from './productDraft';

/** Says a price as it stands typed in a few words; nothing while it is not whole. */
export function usePriceWords(): (draft: PriceDraft) => string {
  const { data: shop } = shopApi.useShopQuery();
  return (draft) => {
    if (!shop) return '';
    const { currency, timeZone } = shop.settings;
    const { price, errors } = readPrice(draft, { currency, timeZone });
    const parsed = PriceSchema.safeParse(price);
    return parsed.success && Object.keys(errors).length === 0 ? priceWords(parsed.data, currency, Date.now()) : '';
  };
}
