import { type Destination, fillTemplate, readTemplate } from '@ruta/core/conversions';
import { bearer, type DestinationAdapter } from './destination';

/** Any program that takes JSON: its body is what the template says. */
export const http: DestinationAdapter<Extract<Destination, { kind: 'http' }>> = {
  url: ({ url }) => url,
  headers: bearer,
  body: (told, { template }) => {
    const read = readTemplate(template);
    if ('message' in read) throw new Error(read.message);
    const { keys } = told;
    const filled = fillTemplate(read.body, {
      'event.name': told.name,
      'event.id': told.eventId,
      'event.time': Math.floor(told.at / 1000),
      'event.date': new Date(told.at).toISOString(),
      ...(told.value === undefined ? {} : { value: told.value, currency: told.currency }),
      ...(told.orderNumber === undefined ? {} : { 'order.number': told.orderNumber }),
      ...(told.leadEventId ? { 'lead.event': told.leadEventId } : {}),
      ...(told.page ? { page: told.page } : {}),
      ...(told.campaign ? { campaign: told.campaign } : {}),
      ...(told.source ? { source: told.source } : {}),
      ...(told.testCode ? { test: told.testCode } : {}),
      ...Object.fromEntries(Object.entries(keys).map(([key, value]) => [`key.${key}`, value])),
    });
    return (filled ?? {}) as object;
  },
  isTaken: ({ status }) => status >= 200 && status < 300,
};
