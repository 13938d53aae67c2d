import { CONVERSION_MOMENTS } from '@ruta/core/conversions';
import type { OwnCode } from '@ruta/core/shop';
import { wholeUnits } from '@ruta/core/tracking';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { liveRules } from './liveRules';
import { averagePaid } from './told';

/** Which moments of the data layer a pixel passes on, and how. */
interface PixelRule {
  moment: string;
  event: string;
  forms: string[];
  /** In whole units; `own` for the entry's own value, null for none. */
  value: number | 'own' | null;
  test: string | null;
}

/**
 * The pixels that stand on the pages of a funnel, as code that waits for consent to marketing: each passes on what the data
 * layer tells, with the ids that the server sends as well.
 * @param scriptUrl the address of the script that does so
 */
export function pixelsOn(services: Pick<Services, 'db' | 'clock' | 'config'>, funnelId: string, scriptUrl: string): OwnCode | null {
  const { db } = services;
  const { standinsUrl } = services.config;
  const byPixel = new Map<string, PixelRule[]>();
  const { currency } = loadShop(db).settings;
  for (const rule of liveRules(db)) {
    const { destination, moment, formIds, value, event, testCode } = rule;
    if (destination.kind !== 'skylark' || !destination.isInBrowser || !standinsUrl) continue;
    if (rule.funnelId !== null && rule.funnelId !== funnelId) continue;
    const worth = value.kind === 'estimate' ? value.amount : value.kind === 'average' ? averagePaid(services, formIds) : null;
    byPixel.set(destination.pixelId, [
      ...(byPixel.get(destination.pixelId) ?? []),
      {
        moment,
        event,
        forms: 'ofForms' in CONVERSION_MOMENTS[moment] ? formIds : [],
        value: value.kind === 'own' ? 'own' : worth === null ? null : wholeUnits(worth, currency),
        test: testCode,
      },
    ]);
  }
  if (byPixel.size === 0) return null;
  const tags = [...byPixel].map(
    ([pixel, rules]) =>
      `<script src="${scriptUrl}" data-pixel="${pixel}" data-platform="${standinsUrl}/skylark/pixel.js" data-currency="${currency}" data-rules="${inAttribute(JSON.stringify(rules))}" async></script>`,
  );
  return { head: tags.join(''), body: '', needs: 'marketing' };
}

const inAttribute = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll('<', '&lt;');
