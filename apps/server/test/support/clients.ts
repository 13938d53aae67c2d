import { isElementOf } from '@ruta/core/elements';
import { allElements, type PageDocument } from '@ruta/core/page';
import { SETUP_CODE } from './installation';
import { LEGAL } from './legal';
import { writeOwnWords } from './ownWords';
import { selling } from './products';

const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0 Safari/537.36';

let people = 0;
/** Everybody sits at a computer of their own, in a range that is kept for trials (RFC 2544). */
const addressOfNext = () => `198.${18 + ((people >> 16) & 1)}.${(people >> 8) & 255}.${people++ & 255}`;

/** Something that keeps cookies between requests, as a browser does. */
class Browser {
  private readonly cookies = new Map<string, string>();
  /** What a proxy in front of the shop says of them. */
  address = addressOfNext();
  constructor(
    readonly base: string,
    private readonly agent = BROWSER,
  ) {}

  cookie(name: string): string | undefined {
    return this.cookies.get(name);
  }

  setCookie(name: string, value: string): void {
    this.cookies.set(name, value);
  }

  async request(path: string, init: RequestInit = {}): Promise<Response> {
    const headers = new Headers(init.headers);
    headers.set('user-agent', this.agent);
    if (!headers.has('x-forwarded-for')) headers.set('x-forwarded-for', this.address);
    if (this.cookies.size > 0) headers.set('cookie', [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '));
    const ask = () => fetch(path.startsWith('http') ? path : this.base + path, { redirect: 'manual', ...init, headers });
    const response = await ask().catch((error: Error) => {
      // As browsers do: a connection that was closed as it was used again is made anew for what only asks.
      const { code } = (error.cause ?? {}) as { code?: string };
      if ((init.method ?? 'GET') !== 'GET' || code !== 'UND_ERR_SOCKET') throw error;
      return ask();
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(cookie) ?? [];
      this.cookies.set(name, value);
    }
    return response;
  }

  get = (path: string) => this.request(path);
  json = (path: string, body: unknown, method = 'POST', headers: Record<string, string> = {}) =>
    this.request(path, { method, body: JSON.stringify(body), headers: { 'content-type': 'application/json', accept: 'application/json', ...headers } });
  form = (path: string, fields: Record<string, string>) =>
    this.request(path, {
      method: 'POST',
      body: new URLSearchParams(fields),
      headers: { 'content-type': 'application/x-www-form-urlencoded', accept: 'text/html' },
    });
}

/** The processor's test cards. */
export const CARD = {
  good: '9000000000000019',
  noFunds: '9000000000000027',
  expired: '9000000000000035',
  stolen: '9000000000000043',
  confirm: '9000000000000050',
  late: '9000000000000068',
  down: '9000000000000076',
  confirmLate: '9000000000000084',
  takenThenDown: '9000000000000092',
};

export const OWNER = { name: 'Inês', email: 'ines@perigeelane.test', password: 'a long enough one' };

/** The seller, signed in to the studio. */
export class Seller extends Browser {
  private csrf = '';

  /** Sets up a wholly new shop and signs in. */
  static async ofNewShop(studio: string): Promise<Seller> {
    const seller = new Seller(studio);
    const response = await seller.json('/api/setup', {
      code: SETUP_CODE,
      ...OWNER,
      shop: { name: 'Perigee Lane', country: 'PT', currency: 'EUR', timeZone: 'Europe/Lisbon', pricesIncludeTax: true },
    });
    if (!response.ok) throw new Error(await response.text());
    seller.csrf = ((await response.json()) as { csrfToken: string }).csrfToken;
    await seller.changeShop({ ...LEGAL, mode: 'live' });
    return seller;
  }

  /** Takes the token of a sign-in made by hand. */
  trust(csrf: string): void {
    this.csrf = csrf;
  }

  /** The header that every change repeats, for requests made by hand. */
  get token(): Record<string, string> {
    return { 'x-csrf-token': this.csrf };
  }

  send = (path: string, body: unknown, method = 'POST', headers: Record<string, string> = {}) =>
    this.json(`/api${path}`, body, method, { 'x-csrf-token': this.csrf, ...headers });
  upload(kind: 'pictures' | 'downloads', name: string, content: Uint8Array<ArrayBuffer> | string): Promise<Response> {
    const body = new FormData();
    body.append('file', new File([content], name));
    return this.request(`/api/uploads/${kind}`, { method: 'POST', body, headers: { 'x-csrf-token': this.csrf } });
  }

  // biome-ignore lint/suspicious/noExplicitAny: answers of the API are looked into by tests, which say what they expect
  async read(path: string): Promise<any> {
    const response = await this.get(`/api${path}`);
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
    return response.json();
  }

  /** The first page of a list. */
  // biome-ignore lint/suspicious/noExplicitAny: as above
  async rows(path: string): Promise<any[]> {
    return (await this.read(path)).rows;
  }

  // biome-ignore lint/suspicious/noExplicitAny: as above
  async make(path: string, body: unknown, method = 'POST'): Promise<any> {
    const response = await this.send(path, body, method);
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
    return response.json();
  }

  /** A published funnel that sells one digital product with a file; with a gift it begins with an opt-in. */
  async sellingFunnel(options: { gift?: boolean; price?: number; product?: object } = {}) {
    const stored = (await (await this.upload('downloads', 'lesson.pdf', 'the lesson itself')).json()) as { id: string };
    const product = await this.make(
      '/products',
      options.product ?? selling('First Light', { kind: 'one-time', regular: options.price ?? 13_800 }, { buyAgain: true }),
    );
    await this.make(`/products/${product.id}/files`, { files: [{ id: stored.id }] }, 'PUT');
    let gift: { id: string } | undefined;
    if (options.gift) {
      const sheet = (await (await this.upload('downloads', 'moon.pdf', 'a moon')).json()) as { id: string };
      gift = (await this.make('/products', selling('Moon Month', { kind: 'free' }))) as { id: string };
      await this.make(`/products/${gift.id}/files`, { files: [{ id: sheet.id }] }, 'PUT');
    }
    const funnel = await this.make('/funnels', {
      name: options.gift ? 'Gift first' : 'Straight',
      template: options.gift ? 'gift-first' : 'straight-sale',
      productId: product.id,
      ...(gift ? { giftId: gift.id } : {}),
    });
    await writeOwnWords(this, funnel.id);
    await this.make(`/funnels/${funnel.id}/publish`, {});
    const step = (kind: string) => funnel.graph.steps.find((candidate: { kind: string }) => candidate.kind === kind)?.id as string;
    return {
      id: funnel.id as string,
      slug: funnel.slug as string,
      productId: product.id as string,
      entry: funnel.graph.entryId as string,
      checkout: step('checkout'),
      thankYou: step('thank-you'),
    };
  }

  /** Changes some of the shop's settings. */
  async changeShop({ mode, ...change }: { mode?: 'test' | 'live' } & Record<string, unknown>): Promise<void> {
    const { settings } = await this.read('/shop');
    const { currency: _currency, mode: _mode, ...shop } = settings;
    if (Object.keys(change).length > 0) await this.make('/shop', { ...shop, ...change }, 'PUT');
    if (mode) await this.make('/shop/mode', { mode, anyway: true });
  }

  /** The order by the address it was bought with, as the studio shows it: with its first payment and what was delivered. */
  // biome-ignore lint/suspicious/noExplicitAny: as above
  async orderOf(email: string): Promise<any> {
    const row = (await this.rows('/orders')).find((order: { email: string }) => order.email === email);
    if (!row) return undefined;
    const order = await this.read(`/orders/${row.id}`);
    return { ...order, ...order.payments[0], ...(await this.read(`/orders/${row.id}/delivery`)), id: row.id };
  }

  // biome-ignore lint/suspicious/noExplicitAny: as above
  async figures(funnelId: string): Promise<Record<string, any>> {
    return this.read(`/funnels/${funnelId}/figures?days=30`);
  }
}

let views = 0;

/** Somebody at the public site, without a browser around them. */
export class Buyer extends Browser {
  private cart = '';
  private shown = '0';

  /** Opens a page and counts as its visitor, as the page's script would. */
  async visit(path: string): Promise<string> {
    const html = await (await this.get(path)).text();
    const [pathname = '', query = ''] = path.split('?');
    await this.count({ id: `evt_${String(++views).padStart(12, '0')}`, path: pathname, query: query ? `?${query}` : '' });
    return html;
  }

  count = (view: { id: string; path: string; query: string }) => this.request(`/e?${new URLSearchParams(view)}`, { method: 'POST' });

  /** Opens a checkout and keeps what its form holds. */
  async openCheckout(path: string): Promise<string> {
    const html = await this.visit(path);
    this.cart = /name="cart" value="([^"]+)"/.exec(html)?.[1] ?? '';
    this.shown = /name="shown" value="([^"]+)"/.exec(html)?.[1] ?? '0';
    return html;
  }

  /** The order form as it would be sent now. */
  order(changes: Record<string, string> = {}): Record<string, string> {
    return { cart: this.cart, shown: this.shown, firstName: 'Ilse', email: 'ilse@moonmail.test', country: 'NL', ...changes };
  }

  async token(standins: string, card: string): Promise<string> {
    const response = await this.json(`${standins}/quayside/v1/tokens`, { number: card });
    return ((await response.json()) as { token: string }).token;
  }

  /** Pays with a card. @returns the answer as the checkout's script gets it */
  async pay(stepId: string, standins: string, card: string, changes: Record<string, string> = {}) {
    const response = await this.json(`/pay/${stepId}`, this.order({ token: await this.token(standins, card), ...changes }));
    return { status: response.status, body: (await response.json()) as { redirect?: string; message?: string; errors?: Record<string, string> } };
  }
}

// biome-ignore lint/suspicious/noExplicitAny: what the stand-in keeps is its own matter
export async function mails(standins: string, to: string): Promise<any[]> {
  return (await (await fetch(`${standins}/mailbox/messages?to=${encodeURIComponent(to)}`)).json()) as never;
}

/** Id of the first form on a page’s document. */
export function formOn(page: PageDocument): string {
  return allElements(page).find((element) => isElementOf(element, 'form'))?.id ?? '';
}
