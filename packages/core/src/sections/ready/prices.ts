import { newPlanCard } from '../../elements';
import { one, part, type ReadySection } from '../plan';
import { big, body, button, drawn, head, lead, note, productPicture, say, two, words } from './tools';

export const prices: readonly ReadySection[] = [
  {
    key: 'price',
    purpose: 'price',
    name: 'Price in the middle',
    plan: () => ({
      name: 'Price',
      ground: 'tint',
      align: 'center',
      width: 'narrow',
      columns: one(head(words({ bound: 'product.name' })), part('price'), part('button')),
    }),
  },
  {
    key: 'price-picture',
    purpose: 'price',
    name: 'Price beside the picture',
    plan: () => ({
      name: 'Price',
      columns: two(
        6,
        [productPicture('square')],
        [head(words({ bound: 'product.name' })), part('price'), part('product', { shows: ['included'] }), button('Order it'), part('badges')],
      ),
      more: { place: 'center' },
    }),
  },
  {
    key: 'price-table',
    purpose: 'price',
    name: 'Editions side by side',
    plan: () => ({
      name: 'Editions',
      ground: 'tint',
      columns: one(
        head(say('Choose your edition')),
        part('price-table', { cards: [newPlanCard(), { ...newPlanCard(), mark: words('Most chosen') }, newPlanCard()] }),
      ),
    }),
  },
  {
    key: 'price-plans',
    purpose: 'price',
    name: 'Two ways to pay',
    plan: () => ({ name: 'Ways to pay', columns: one(head(say('At once, or bit by bit')), part('price-table')) }),
  },
  {
    key: 'price-guarantee',
    purpose: 'price',
    name: 'Price and guarantee',
    plan: () => ({
      name: 'Price',
      ground: 'dark',
      columns: [
        { span: 7, parts: [head(words({ bound: 'product.name' })), part('price'), button('Get it now')] },
        { span: 5, parts: [part('guarantee')], panel: 'sheet' },
      ],
      more: { place: 'center' },
    }),
  },
  {
    key: 'price-panel',
    purpose: 'price',
    name: 'On a sheet of its own',
    plan: () => ({
      name: 'Price',
      ground: 'sheet',
      align: 'center',
      width: 'narrow',
      columns: one(head(words({ bound: 'product.name' })), body(words({ bound: 'product.description' })), part('price'), button('Order it', { style: 'main' })),
      more: { inset: true },
    }),
  },
];

export const guarantees: readonly ReadySection[] = [
  { key: 'guarantee', purpose: 'guarantee', name: 'In a frame', plan: () => ({ name: 'Guarantee', width: 'narrow', columns: one(part('guarantee')) }) },
  {
    key: 'guarantee-seal',
    purpose: 'guarantee',
    name: 'With a seal',
    plan: () => ({
      name: 'Guarantee',
      ground: 'tint',
      columns: two(
        4,
        [drawn('seal-promise')],
        [head(say('What you promise')), body(say('For how long, and what they have to do for it: as little as possible.'))],
      ),
      more: { place: 'center' },
    }),
  },
  {
    key: 'guarantee-policy',
    purpose: 'guarantee',
    name: 'The product’s own policy',
    plan: () => ({
      name: 'Guarantee',
      ground: 'sheet',
      width: 'narrow',
      columns: one(head(words('If it is not for you')), part('product', { shows: ['policy'] })),
    }),
  },
];

export const questions: readonly ReadySection[] = [
  {
    key: 'questions',
    purpose: 'questions',
    name: 'Below each other',
    plan: () => ({ name: 'Questions', width: 'narrow', columns: one(head(words('Questions')), part('faq')) }),
  },
  {
    key: 'questions-beside',
    purpose: 'questions',
    name: 'Beside a headline',
    plan: () => ({
      name: 'Questions',
      ground: 'tint',
      columns: two(4, [head(words('Questions')), note(words('Not answered here? Write to ', { bound: 'shop.email' }))], [part('faq')]),
    }),
  },
  {
    key: 'questions-two',
    purpose: 'questions',
    name: 'In two columns',
    plan: () => ({ name: 'Questions', columns: two(6, [head(words('Before you order')), part('faq')], [head(words('Afterwards')), part('faq')]) }),
  },
];

export const forms: readonly ReadySection[] = [
  {
    key: 'form-simple',
    purpose: 'form',
    name: 'Form in the middle',
    plan: () => ({ name: 'Form', width: 'narrow', columns: one(head(say('Where shall it go?')), part('form')) }),
  },
  {
    key: 'form-beside',
    purpose: 'form',
    name: 'Form beside what they get',
    plan: () => ({
      name: 'Form',
      ground: 'tint',
      columns: [
        { span: 6, parts: [drawn('envelope-open'), lead(say('What comes, how often, and that it ends when they want.'))] },
        { span: 6, parts: [part('form')], panel: 'sheet' },
      ],
      more: { place: 'center' },
    }),
  },
  {
    key: 'form-dark',
    purpose: 'form',
    name: 'Form on the main colour',
    plan: () => ({
      name: 'Form',
      ground: 'dark',
      width: 'narrow',
      columns: one(head(say('Write down your address')), part('form')),
      more: { pattern: 'stars' },
    }),
  },
  {
    key: 'form-letter',
    purpose: 'form',
    name: 'A letter every week',
    trade: 'books',
    plan: () => ({
      name: 'Letter',
      ground: 'sheet',
      columns: two(5, [drawn('reading-chair')], [head(say('What you write about')), part('form')]),
      more: { inset: true, place: 'center' },
    }),
  },
];

export const appointments: readonly ReadySection[] = [
  {
    key: 'appointment',
    purpose: 'appointment',
    name: 'Choose a time',
    trade: 'services',
    plan: () => ({
      name: 'Choose a time',
      columns: two(
        5,
        [head(say('Half an hour, for you')), body(say('What you talk about, and what they bring.')), drawn('calendar-day')],
        [part('appointment')],
      ),
    }),
  },
  {
    key: 'appointment-centre',
    purpose: 'appointment',
    name: 'Times in the middle',
    trade: 'services',
    plan: () => ({ name: 'Choose a time', ground: 'tint', width: 'narrow', columns: one(head(say('When does it suit you?')), part('appointment')) }),
  },
];

export const deadlines: readonly ReadySection[] = [
  {
    key: 'deadline-strip',
    purpose: 'deadline',
    name: 'A strip with the clock',
    plan: () => ({ name: 'Deadline', ground: 'dark', space: 'tight', align: 'center', columns: one(part('countdown')) }),
  },
  {
    key: 'deadline-offer',
    purpose: 'deadline',
    name: 'Clock, price, button',
    plan: () => ({
      name: 'Deadline',
      ground: 'tint',
      align: 'center',
      width: 'narrow',
      columns: one(big(say('Until when, and why it ends')), part('countdown'), part('price'), button('While it lasts')),
    }),
  },
];
