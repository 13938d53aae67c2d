import http from 'node:http';
import { By, Key } from 'selenium-webdriver';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { freePort, Installation, until } from '../apps/server/test/support/installation';
import { Person } from './support/browser';
import { CARDS, pressPay, typeCard } from './support/pay';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
let elsewhere: http.Server;
let blog: string;

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel();
  await seller.changeShop({ mode: 'live' });
  const port = await freePort();
  // A site under another name, so that browsers hold it for somebody else's.
  elsewhere = http.createServer((_request, response) => {
    response.setHeader('content-type', 'text/html');
    response.end(
      `<!doctype html><html lang="en"><title>A blog</title><style>* { color: red !important; font-size: 40px }</style><h1>A blog about the night</h1>
       <script src="${ruta.site}/embed/outside.js" data-funnel="${funnel.slug}" async></script>
       <script src="${ruta.site}/embed/checkout.js" async></script>
       <p><a href="${ruta.site}/${funnel.slug}/checkout" data-ruta-checkout>Buy the course</a></p>
       <script>document.addEventListener('ruta-purchase', (event) => { (window.heard ??= []).push(event.detail); });</script>`,
    );
  });
  await new Promise<void>((resolve) => elsewhere.listen(port, resolve));
  blog = `http://localhost:${port}/post`;
});
afterAll(async () => {
  elsewhere.closeAllConnections();
  elsewhere.close();
  await ruta.stop();
});

const dialogOf = (person: Person) =>
  person.driver.executeScript<boolean>('return [...document.querySelectorAll("div")].some((each) => each.shadowRoot?.querySelector("dialog[open]"))');
/** Goes into the checkout that stands over the page. */
async function enter(person: Person): Promise<void> {
  const frame = await person.driver.executeScript(
    'return [...document.querySelectorAll("div")].map((each) => each.shadowRoot?.querySelector("iframe")).find(Boolean)',
  );
  await person.driver.switchTo().frame(frame as never);
}
const ready = (person: Person) =>
  person.until(() => person.driver.executeScript<boolean>('return Object.keys(window.rutaElsewhere ?? {}).length > 0'), 'the scripts are there');
const today = () => new Intl.DateTimeFormat('en-CA', { timeZone: 'Europe/Lisbon' }).format(Date.now());
const report = (by: string) => seller.read(`/reports?by=${by}&from=${today()}&to=${today()}&compare=none&funnelId=${funnel.id}`);

it('opens over any page, sells there, and counts one visitor, one campaign and one purchase, told to the page around it once', async () => {
  const person = await Person.arrive();
  try {
    await person.open(`${blog}?utm_source=blog&utm_campaign=night-post`);
    await ready(person);
    await person.click('Buy the course');
    await enter(person);
    await person.sees('First name');
    // Neither site's style reaches the other.
    expect(await (await person.find('h1, h2')).getCssValue('color')).not.toBe('rgb(255, 0, 0)');
    await person.type('First name', 'Ilse');
    await person.type('E-mail', 'ilse.v@moonmail.test');
    await typeCard(person, CARDS.approved);
    await enter(person);
    await pressPay(person);
    await person.sees('Thank you, Ilse');
    // Loaded once more, it is told no second time.
    await person.driver.executeScript('location.reload()');
    await person.sees('Thank you, Ilse');
    await person.driver.switchTo().defaultContent();
    await person.until(() => person.driver.executeScript<boolean>('return (window.heard ?? []).length > 0'), 'the page around hears of it');
    const heard = await person.driver.executeScript<Array<{ event: string; order: object }>>('return [window.heard, window.rutaData].flat()');
    expect(heard).toHaveLength(2);
    expect(heard[0]).toMatchObject({ event: 'purchase', order: { value: 138, currency: 'EUR' } });
    expect(JSON.stringify(heard)).not.toMatch(/ilse/i);
    const order = await seller.orderOf('ilse.v@moonmail.test');
    expect((await seller.read(`/orders/${order.id}`)).campaign).toMatchObject({ source: 'blog', campaign: 'night-post' });
    await until(async () => (await report('campaign')).total.converted === 1, 'they have bought');
    expect((await report('campaign')).total).toMatchObject({ visitors: 1, converted: 1, orders: 1 });

    // Closed by its button the page is as it was, with the keyboard where it was.
    await person.driver.executeScript('[...document.querySelectorAll("div")].find((each) => each.shadowRoot)?.shadowRoot.querySelector("button").click()');
    await person.until(async () => !(await dialogOf(person)), 'it is closed');
    expect(await person.driver.executeScript('return document.activeElement?.textContent')).toBe('Buy the course');
  } finally {
    await person.leave();
  }
});

it('closes on Esc from within, keeps what was typed of the cart, and opens again on a phone', async () => {
  const person = await Person.arrive({ width: 390, height: 844 });
  try {
    await person.open(blog);
    await ready(person);
    await person.click('Buy the course');
    await enter(person);
    await person.sees('First name');
    await person.type('First name', 'Rui');
    await person.type('E-mail', 'rui@moonmail.test');
    await (await person.byLabel('First name')).sendKeys(Key.TAB);
    await until(async () => (await report('cart')).total.started === 2, 'the cart is kept');
    await (await person.byLabel('First name')).sendKeys(Key.ESCAPE);
    await person.driver.switchTo().defaultContent();
    await person.until(async () => !(await dialogOf(person)), 'it is closed');
    await person.click('Buy the course');
    await enter(person);
    await person.until(
      async () => (await (await person.byLabel('E-mail')).getAttribute('value')) === 'rui@moonmail.test',
      'what they typed stands there again',
    );
    // No wider than the phone.
    expect(await person.driver.executeScript<boolean>('return document.documentElement.scrollWidth <= innerWidth')).toBe(true);
  } finally {
    await person.leave();
  }
});

it('is a plain link without its script, and its cookie is for one pair of sites alone', async () => {
  const plain = await Person.arrive({ script: false });
  try {
    await plain.open(blog);
    await plain.driver.findElement(By.linkText('Buy the course')).click();
    await plain.sees('First name');
    expect(await plain.address()).toBe(`${ruta.site}/${funnel.slug}/checkout`);
  } finally {
    await plain.leave();
  }
  // The frame's cookie says that it is for this pair of sites alone; the site's own is not given to it.
  const asked = (headers: Record<string, string>) => fetch(`${ruta.site}/${funnel.slug}/checkout`, { headers });
  const framed = await asked({ 'sec-fetch-dest': 'iframe', 'sec-fetch-site': 'cross-site' });
  expect(framed.headers.getSetCookie()).toEqual([expect.stringMatching(/^ruta_framed=vis_(?=.*Secure)(?=.*SameSite=None)(?=.*Partitioned)/)]);
  expect(framed.headers.get('content-security-policy')).toContain('frame-ancestors *');
  const own = await asked({ 'sec-fetch-dest': 'document', 'sec-fetch-site': 'none' });
  expect(own.headers.getSetCookie()).toEqual([expect.stringMatching(/^ruta_visitor=vis_.*SameSite=Lax/)]);
  // What is nobody's checkout is framed by nobody.
  expect((await fetch(`${ruta.site}/order/nothing`)).headers.get('content-security-policy')).toContain("frame-ancestors 'self'");
});
