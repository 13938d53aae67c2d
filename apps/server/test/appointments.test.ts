import { momentWords } from '@ruta/core/appointments';
import { newElement } from '@ruta/core/elements';
import type { PageDocument } from '@ruta/core/page';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, mails, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { freshId } from './support/offers';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel({ gift: true });
});
afterAll(() => ruta.stop());

const made = (type: Parameters<typeof newElement>[0], changes: object = {}) =>
  JSON.parse(JSON.stringify({ ...newElement(type, (kind) => freshId(kind === 'element' ? 'elm' : kind)), ...changes }).replaceAll(',"placeholder":true', ''));

/** Changes the page that visitors see first, and puts it live. */
async function publishPage(change: (page: PageDocument) => void): Promise<string> {
  const { page, revision } = (await seller.read(`/steps/${funnel.entry}/page`)) as { page: PageDocument; revision: number };
  change(page);
  await seller.make(`/steps/${funnel.entry}/page`, { revision, page }, 'PUT');
  await seller.make(`/funnels/${funnel.id}/publish`, {});
  return (await fetch(`${ruta.site}/${funnel.slug}`)).text();
}
const add = (page: PageDocument, ...elements: object[]) => page.sections[1]?.columns[0]?.elements.push(...(elements as never[]));

describe('appointments', () => {
  const element = made('appointment', {
    noticeHours: 0,
    free: [1, 2, 3, 4, 5, 6, 7].map((day) => ({ day, from: '00:00', until: '24:00' })),
    place: 'By the window',
  });
  it('are booked once: of two who want one time, one gets it, and both sides get a calendar', async () => {
    const html = await publishPage((page) => add(page, element));
    const slot = /name="slot" value="(\d+)"/.exec(html)?.[1] ?? '';
    const book = (email: string) => new Buyer(ruta.site).form(`/go/${funnel.entry}/appointment`, { _appointment: element.id, slot, firstName: 'Marta', email });
    const answers = await Promise.all([book('one@moonmail.test'), book('two@moonmail.test')]);
    expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 422]);
    const [won, lost] = answers[0]?.status === 200 ? ['one', 'two'] : ['two', 'one'];
    expect(await answers.find(({ status }) => status === 422)?.text()).toContain('This time has just been taken');
    await until(async () => (await mails(ruta.standinsUrl, `${won}@moonmail.test`)).length === 1, 'the buyer is told');
    await until(async () => (await mails(ruta.standinsUrl, 'ines@perigeelane.test')).length > 0, 'the seller is told');
    expect(await mails(ruta.standinsUrl, `${lost}@moonmail.test`)).toHaveLength(0);
    expect((await mails(ruta.standinsUrl, `${won}@moonmail.test`))[0].text).toContain('By the window');
    expect(await (await fetch(`${ruta.site}/${funnel.slug}`)).text()).not.toContain(`value="${slot}"`);
    const contact = (await seller.rows(`/contacts?search=${won}@moonmail.test`))[0];
    expect((await seller.read(`/contacts/${contact.id}`)).bookings).toHaveLength(1);
  });
  it('stand in a list, and can be cancelled: both are told, the time is free again, and twice is once', async () => {
    const [row] = await seller.rows('/appointments?direction=asc');
    expect(row).toMatchObject({ subject: element.subject, place: 'By the window', firstName: 'Marta', cancelledAt: null });
    expect(await seller.rows('/appointments?search=nobody-like-this')).toEqual([]);
    expect(await seller.read('/appointments/count?list=past')).toEqual({ count: 0 });
    const told = async () => (await mails(ruta.standinsUrl, row.email)).filter(({ subject }: { subject: string }) => subject.startsWith('Cancelled: '));
    await seller.make(`/appointments/${row.id}/cancel`, {});
    const again = await seller.make(`/appointments/${row.id}/cancel`, {});
    expect(again.cancelledAt).toBeGreaterThan(0);
    await until(async () => (await told()).length > 0, 'the buyer is told');
    expect((await told())[0].text).toContain('had to cancel it');
    await until(
      async () => (await mails(ruta.standinsUrl, 'ines@perigeelane.test')).some(({ subject }: { subject: string }) => subject.startsWith('Cancelled: ')),
      'the seller too',
    );
    expect(await told()).toHaveLength(1);
    expect(await seller.rows('/appointments')).toEqual([]);
    expect(await seller.read('/appointments/count?list=cancelled')).toEqual({ count: 1 });
    expect(await (await fetch(`${ruta.site}/${funnel.slug}`)).text()).toContain(`value="${row.startAt}"`);
    expect((await seller.send('/appointments/bkg_nothing/cancel', {})).status).toBe(404);
  });
  it('are by the visitor’s own clock in mail, and moved and cancelled by the link in it; the time they leave is free again', async () => {
    const free = async () => [...(await (await fetch(`${ruta.site}/${funnel.slug}`)).text()).matchAll(/name="slot" value="(\d+)"/g)].map(([, start]) => start);
    const [, , first = '', , second = ''] = await free();
    const buyer = new Buyer(ruta.site);
    const booked = await buyer.form(`/go/${funnel.entry}/appointment`, {
      _appointment: element.id,
      slot: first,
      firstName: 'Ilse',
      email: 'zone@moonmail.test',
      zone: 'America/New_York',
    });
    expect(await booked.text()).toContain('(New York time)');
    const sent = () => mails(ruta.standinsUrl, 'zone@moonmail.test');
    await until(async () => (await sent()).length === 1, 'the buyer is told');
    const [told] = await sent();
    expect(told.text).toContain(`${momentWords(Number(first), 'America/New_York')} (New York time)`);
    const path = /\/go\/appointment\/\S+/.exec(told.text)?.[0] ?? '';
    const calendar = Buffer.from(told.attachments[0].content, 'base64').toString();
    expect(calendar).toContain('SEQUENCE:0');
    expect(await (await fetch(`${ruta.standinsUrl}/mailbox/${told.id}`)).text()).toContain('appointment.ics');
    expect(await (await fetch(`${ruta.standinsUrl}/mailbox/${told.id}/attachments/0`)).text()).toBe(calendar);
    // Nobody without the mail gets there.
    expect((await fetch(`${ruta.site}${path.slice(0, -3)}abc`)).status).toBe(404);
    const page = await buyer.visit(path);
    expect(page).toContain(`value="${second}"`);
    expect(page).not.toContain('name="email"');
    expect((await buyer.form(`${path}/move`, { slot: '7' })).status).toBe(422);
    const moved = await buyer.form(`${path}/move`, { slot: second, zone: 'America/New_York' });
    expect(await moved.text()).toContain('Your appointment was moved');
    expect(await free()).toContain(first);
    expect(await free()).not.toContain(second);
    await until(async () => (await sent()).length === 2, 'the move is told');
    const news = (await sent()).find(({ subject }) => subject.startsWith('Moved: '));
    expect(Buffer.from(news.attachments[0].content, 'base64').toString()).toContain('SEQUENCE:1');
    const answers = await Promise.all(Array.from({ length: 5 }, () => buyer.form(`${path}/cancel`, {})));
    expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 410, 410, 410, 410]);
    expect(await free()).toContain(second);
    await until(async () => (await sent()).length === 3, 'the cancellation is told');
    const last = (await sent()).find(({ subject }) => subject.startsWith('Cancelled: '));
    expect(last.text).toContain('You cancelled it');
    expect(Buffer.from(last.attachments[0].content, 'base64').toString()).toContain('SEQUENCE:2');
    expect(await buyer.visit(path)).toContain('This appointment was cancelled');
  });
  it('say at each field what is missing, and keep what was typed', async () => {
    const response = await new Buyer(ruta.site).form(`/go/${funnel.entry}/appointment`, { _appointment: element.id, firstName: 'Marta', email: 'nobody' });
    const html = await response.text();
    expect(html).toContain('Choose a time.');
    expect(html).toContain('Enter an e-mail address');
    expect(html).toContain('value="Marta"');
  });
});
