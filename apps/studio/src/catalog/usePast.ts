import { fromLocalTime } from '@ruta/core/shop';
import { shopApi } from '../shop/api';

/** Whether a day and hour that was typed, by the shop's clock, is past; an empty one is not. */
export function usePast(): (typed: string) => boolean {
  const { data: shop } = shopApi.useShopQuery();
  return (typed) => {
    const at = typed && shop ? fromLocalTime(typed, shop.settings.timeZone) : null;
    return at !== null && at < Date.now();
  };
}
