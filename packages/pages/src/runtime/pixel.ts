/**
 * Passes on to an ad platform's pixel what the data layer tells, by the rules of the shop: each with the id that the server
 * sends as well, so that it is counted once. It is put into pages that may carry it, and into no others.
 */
interface Rule {
  moment: string;
  event: string;
  forms: string[];
  value: number | 'own' | null;
  test: string | null;
}
interface Entry {
  event: string;
  id?: string;
  form?: string;
  value?: number;
  order?: { number: string; value: number };
}
interface Platform {
  track: (pixel: string, name: string, data: Record<string, unknown>) => void;
}

const own = document.currentScript;
if (own instanceof HTMLScriptElement && own.dataset.pixel && own.dataset.platform) start(own.dataset.pixel, own.dataset.platform, own.dataset);

function start(pixel: string, source: string, { rules = '[]', currency }: DOMStringMap): void {
  const asked = JSON.parse(rules) as Rule[];
  const page = window as unknown as { rutaData?: Entry[]; skylarkPixel?: Platform };
  page.rutaData ??= [];
  const entries = page.rutaData;
  const script = Object.assign(document.createElement('script'), { src: source, async: true });
  script.addEventListener('load', () => {
    const platform = page.skylarkPixel;
    if (!platform) return;
    const pass = (entry: Entry) => {
      for (const { moment, event, forms, value, test } of asked) {
        if (moment !== entry.event || !entry.id || (forms.length > 0 && !forms.includes(entry.form ?? ''))) continue;
        const worth = value === 'own' ? (entry.order?.value ?? entry.value) : (value ?? undefined);
        platform.track(pixel, event, {
          event_id: entry.id,
          ...(worth === undefined ? {} : { value: worth, currency }),
          ...(entry.order ? { order: entry.order.number } : {}),
          ...(test ? { test_code: test } : {}),
        });
      }
    };
    entries.forEach(pass);
    const push = entries.push.bind(entries);
    entries.push = (...more: Entry[]) => {
      more.forEach(pass);
      return push(...more);
    };
  });
  document.head.append(script);
}

// A module of its own, so that its names are.
export {};
