import type { Destination } from '@ruta/core/conversions';
import { bearer, type DestinationAdapter } from './destination';

/** Skylark, an ad platform: a list of events to a pixel, with a token. */
export const skylark: DestinationAdapter<Extract<Destination, { kind: 'skylark' }>> = {
  url: ({ pixelId }, { standinsUrl }) => (standinsUrl ? `${standinsUrl}/skylark/v1/pixels/${encodeURIComponent(pixelId)}/events` : null),
  headers: bearer,
  body: ({ eventId, name, at, value, currency, orderNumber, leadEventId, page, keys, testCode }) => ({
    events: [
      {
        name,
        event_id: eventId,
        time: Math.floor(at / 1000),
        source: 'server',
        ...(page ? { page } : {}),
        ...(value === undefined ? {} : { value, currency }),
        ...(orderNumber === undefined ? {} : { order: String(orderNumber) }),
        ...(leadEventId ? { lead_event_id: leadEventId } : {}),
        user: keys,
      },
    ],
    ...(testCode ? { test_code: testCode } : {}),
  }),
  // It says how many it took; a page of somebody in between that answers 200 has taken nothing.
  isTaken: ({ status, text }) => {
    if (status < 200 || status >= 300) return false;
    try {
      return (JSON.parse(text) as { received?: number }).received === 1;
    } catch {
      return false;
    }
  },
};
