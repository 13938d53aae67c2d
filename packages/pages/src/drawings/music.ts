import { DISC, type Drawing, FLOOR, object } from './drawing';

const wave = [14, 30, 52, 26, 70, 96, 58, 120, 84, 48, 104, 66, 34, 54, 22, 12];
const bars = wave
  .map((height, index) => `<path class="${index % 3 === 1 ? 'a' : 'd'}" d="M${18 + index * 18} ${110 - height / 2}h10v${height}h-10z"/>`)
  .join('');

export const music = {
  'record-player': object(
    `<path class="c" d="M36 44h168v122H36z"/><circle class="k" cx="104" cy="105" r="52"/><g stroke="var(--sheet)" class="h"><circle cx="104" cy="105" r="43"/><circle cx="104" cy="105" r="34"/></g><circle class="a" cx="104" cy="105" r="20"/><circle class="c" cx="104" cy="105" r="4"/><path d="M182 62v52l-32 30"/><circle class="d" cx="182" cy="60" r="9"/><circle class="a" cx="184" cy="148" r="7"/><path d="M50 166v12M190 166v12"/>`,
  ),
  microphone: object(
    `${FLOOR}<path class="d" d="M92 56a28 28 0 0 1 56 0v40a28 28 0 0 1-56 0z"/><g class="h" stroke="var(--on-dark)"><path d="M98 58h44M98 72h44M98 86h44"/></g><path d="M76 90c0 60 88 60 88 0M120 136v40"/><path class="a" d="M88 168h64v8H88z"/>`,
  ),
  'sound-wave': [320, 220, `<circle class="b o" cx="160" cy="110" r="104"/>${bars}`] as Drawing,
  'cello-neck': object(
    `<path class="a" d="M112 92c-34 0-44 20-30 36-24 12-22 54 38 54s62-42 38-54c14-16 4-36-30-36z"/><path class="k" d="M113 20h14v104h-14z"/><path class="c" d="M108 12h24v16h-24z"/><path class="h" d="M116 28v120M120 28v120M124 28v120"/><path class="d" d="M104 148h32v6h-32z"/><path d="M94 122c-8 8 4 12-4 20M146 122c8 8-4 12 4 20"/><path d="M206 34L58 170"/><path class="c" d="M206 34l8 8-6 6"/>`,
  ),
  'film-reel': object(
    `${FLOOR}<circle class="d" cx="112" cy="102" r="72"/><g class="b"><circle cx="112" cy="62" r="17"/><circle cx="112" cy="142" r="17"/><circle cx="72" cy="102" r="17"/><circle cx="152" cy="102" r="17"/></g><circle class="a" cx="112" cy="102" r="9"/><path class="c" d="M112 174h104v-22h-60"/><path class="h" d="M150 163h56" stroke-dasharray="6 7"/>`,
  ),
  'headphones-rest': [
    240,
    200,
    `${DISC}<path d="M52 132V104a68 68 0 0 1 136 0v28"/><path d="M62 132v-26a58 58 0 0 1 116 0v26"/><path class="a" d="M40 118h34v56H52a12 12 0 0 1-12-12zM200 118h-34v56h22a12 12 0 0 0 12-12z"/><path class="d" d="M74 112h14v68H74zM166 112h-14v68h14z"/>`,
  ] as Drawing,
};
