import type { Product } from '@ruta/core/catalog';
import type { IdKind } from '@ruta/core/ids';
import { one, part, type SectionPlan } from '@ruta/core/sections';
import { dress, type FunnelDesign, makeDesign } from '@ruta/core/templates';
import type { Services } from '../apps/server/src/base/services';
import { changeLook } from '../apps/server/src/funnel/service';
import { loadFunnel } from '../apps/server/src/funnel/store';
import { savePage } from '../apps/server/src/page/save';

const deadline: SectionPlan = { name: 'Deadline', ground: 'tint', space: 'tight', align: 'center', columns: one(part('countdown')) };

const course = makeDesign({
  design: 'spring-intake',
  name: 'Spring intake',
  trade: 'sky',
  template: 'straight-sale',
  purpose: 'A course that begins on one day, in the colours of a spring evening.',
  brand: { main: '#0F3D3A', accent: '#D7502A', ground: '#F3F7F0', fonts: 'oswald', corner: 2, look: 'stage' },
  drawings: ['sun-rise', 'constellation', 'moon-hills'],
  how: { opening: 'dark', reasons: 'numbered', story: 'beside', way: 'row', price: 'dark', pattern: 'stars' },
  said: {
    eyebrow: 'Spring intake, twelve evenings',
    press: 'Take a place',
    reasons: 'After six weeks',
    reason: [
      ['compass', 'You know where you are', 'North without a phone, and which way everything turns.'],
      ['star', 'You know forty stars', 'By name, by colour, and by what stands beside them.'],
      ['moon', 'You know the wanderers', 'Which light is a planet, and where it will be next month.'],
    ],
    story: [
      'Taught from a balcony',
      'We live in a town with a bright square below us. Everything in the course was found from there, with bare eyes and a coat.',
      'Each evening is one short film to watch indoors and one walk outside. Nothing has to be bought, and a cloudy night waits for the next clear one.',
    ],
    way: 'One week of it',
    step: [
      ['Monday', 'A film of twelve minutes: three things to find, and how.'],
      ['The first clear night', 'Twenty minutes outside, with the sheet that you printed.'],
      ['Thursday', 'Questions and answers, live, with whoever has been out.'],
    ],
    questions: [
      ['I live in a town. Does it work?', 'Yes. Half of all who took it live in one. The stars that remain are the ones to begin with.'],
      ['What if it is cloudy for weeks?', 'The films stay yours, and the walks are made for any clear night of the season.'],
      ['Do I need a telescope?', 'No. The last evening is about whether you would like one.'],
      ['Can I pay in parts?', 'In four payments, a month apart. You choose at the checkout.'],
    ],
    closing: ['The evenings are getting lighter', 'Doors close when the countdown above ends. The next intake is in autumn.'],
    gift: 'A free evening',
    thanks: 'Your first evening is ready. Go out twenty minutes before you mean to look, and bring nothing but a coat.',
  },
});

const club = makeDesign({
  design: 'clear-skies',
  name: 'Clear skies',
  trade: 'sky',
  template: 'straight-sale',
  purpose: 'A membership, on the ground of a clear night.',
  brand: { main: '#101736', accent: '#F0B64A', ground: '#FBF6E8', fonts: 'newsreader-karla', corner: 8, look: 'night' },
  drawings: ['moon-phases', 'telescope-night', 'orbit-rings'],
  how: { opening: 'centred', reasons: 'grid', story: 'dark', way: 'row', price: 'centred', pattern: 'rings' },
  said: {
    eyebrow: 'A letter and a chat for people who look up',
    press: 'Begin with two free weeks',
    reasons: 'What a month holds',
    reason: [
      ['mail', 'A letter on the first', 'What rises when, what is worth staying up for, and one old story.'],
      ['message-circle', 'A chat that never sleeps', 'Somebody is always awake somewhere, and usually outside.'],
      ['calendar', 'One night together', 'Once a month all of us look at the same thing at the same hour.'],
    ],
    story: [
      'It began with eleven neighbours',
      'They wrote to each other whenever it cleared: come out, it is there.',
      'There are four hundred now, from Tromsø to Dunedin. It still works in the same way.',
    ],
    way: 'How it goes on',
    step: [
      ['Two weeks to try', 'Nothing is charged before they are over. We write to you before that.'],
      ['Then by the month or by the year', 'By the year costs as much as ten months.'],
      ['Leave with one press', 'You keep every letter that you have had.'],
    ],
    questions: [
      ['Do I have to know anything?', 'No. Half of us began with the moon, and some have stayed with it.'],
      ['What of the southern sky?', 'Every letter has a page for it.'],
      ['Can I read the older letters?', 'All of them, from the first day.'],
    ],
    closing: ['It is dark somewhere just now', 'Come and see who is out.'],
    gift: 'A letter to try',
    thanks: 'The door of the chat is on the button below. Say where you are; somebody near you will say hello.',
  },
});

const wheel = makeDesign({
  design: 'paper-sky',
  name: 'Paper sky',
  trade: 'craft',
  template: 'direct-link',
  purpose: 'One printed thing, on paper, with its checkout right below.',
  brand: { main: '#33261B', accent: '#A8432B', ground: '#F5ECDB', fonts: 'bitter', corner: 4, look: 'workshop' },
  drawings: ['constellation', 'wrapped-parcel', 'orbit-rings'],
  how: { opening: 'beside', reasons: 'cards', story: 'letter', way: 'row', price: 'centred' },
  said: {
    eyebrow: 'Printed in Coimbra, on card that survives dew',
    press: 'Order one below',
    reasons: 'What you hold',
    reason: [['star', 'Tonight, exactly', 'Turn it to the hour and the sky above you is the sky in your hand.']],
    story: ['Made to be left outside', 'We cut the first ones by hand.', 'They still come in a sleeve of recycled card.'],
    way: 'How it comes to you',
    step: [['Packed', 'Within two days.']],
    questions: [['Which one do I need?', 'The one nearest to your latitude.']],
    closing: ['It needs no battery', 'And nobody has ever had to charge the sky.'],
    gift: 'A sheet to cut out',
    thanks: 'We pack it tomorrow. It leaves in a flat parcel that fits through every letter box.',
  },
});

/** The course's sales page tells how long the doors stay open, right below what it opens with. */
const intake: FunnelDesign = {
  ...course,
  pages: { ...course.pages, sales: (product) => (course.pages.sales?.(product) ?? []).toSpliced(1, 0, deadline) },
};

/** The looks of the sample shop's funnels beside the shop's own, which the first of them keeps. */
export const LOOKS = { intake, club, wheel };

/** Gives a funnel of the sample shop its own look, and pages arranged and worded for it. */
export function giveLook(services: Services, funnelId: string, design: FunnelDesign, product: Product, newId: (kind: IdKind) => string): void {
  changeLook(services, funnelId, { brand: design.brand, code: null });
  const { graph, steps } = loadFunnel(services.db, funnelId);
  const pages = Object.fromEntries(steps.map(({ id, draft }) => [id, draft]));
  const dressed = dress({ graph, pages }, design, { product }, newId);
  for (const { id, revision } of steps) {
    const page = dressed.pages[id];
    // The words are the shop's own: none of them stands for others.
    if (page && page !== pages[id]) savePage(services, id, { revision, page: JSON.parse(JSON.stringify(page).replaceAll(',"placeholder":true', '')) });
  }
}
