import { type Drawing, FLOOR, object, scene } from './drawing';

/** Head and shoulders in outline; hair before and behind the face makes the difference. */
const portrait = (hairBehind: string, hairBefore: string, dress: string): Drawing => [
  200,
  200,
  `<circle class="b o" cx="100" cy="100" r="96"/><g clip-path="circle(96px at 100px 100px)">${hairBehind}<path class="c" d="M86 116h28v34H86z"/><path class="${dress}" d="M32 208c0-46 30-62 54-64 8 14 20 14 28 0 24 2 54 18 54 64z"/><path class="c" d="M66 82a34 36 0 0 1 68 0c0 28-14 48-34 48S66 110 66 82z"/>${hairBefore}<path class="h" d="M86 88v4M114 88v4M92 112c6 5 12 5 17 0M100 92l-3 10h5"/></g>`,
];

export const services = {
  'two-talking': scene(
    `<circle class="b o" cx="160" cy="104" r="98"/><circle class="c" cx="94" cy="90" r="26"/><path class="k" d="M68 88c0-34 52-34 52 0-14-10-38-10-52 0z"/><path class="a" d="M44 196c0-46 22-66 50-66s50 20 50 66z"/><circle class="c" cx="226" cy="90" r="26"/><path class="k" d="M200 96c-6-44 58-44 52 0-6-14-12-22-26-24-12 4-22 10-26 24z"/><path class="d" d="M176 196c0-46 22-66 50-66s50 20 50 66z"/><path class="c" d="M126 22h68v34h-28l-14 14v-14h-26z"/><path class="h" d="M138 34h44M138 44h26"/><path d="M20 196h280"/>`,
  ),
  'portrait-short': portrait('', '<path class="k" d="M62 86c-4-46 20-56 40-56s42 12 36 56c-4-12-8-20-14-24-16 6-36 6-48 0-6 4-10 12-14 24z"/>', 'd'),
  'portrait-long': portrait(
    '<path class="k" d="M56 168c-12-40-8-140 44-140s56 100 44 140c-20 14-68 14-88 0z"/>',
    '<path class="k" d="M64 88c0-36 16-52 36-52s36 16 36 52c-10-4-22-16-28-30-8 16-26 28-44 30z"/>',
    'a',
  ),
  'portrait-curls': portrait(
    '<g class="k"><circle cx="64" cy="70" r="22"/><circle cx="136" cy="70" r="22"/><circle cx="58" cy="100" r="20"/><circle cx="142" cy="100" r="20"/><circle cx="82" cy="46" r="22"/><circle cx="118" cy="46" r="22"/></g>',
    '<path class="k" d="M66 78c4-26 20-36 34-36s30 10 34 36c-10-2-16-8-20-14-6 6-12 8-18 4-6 6-16 10-30 10z"/>',
    'd',
  ),
  'portrait-glasses': portrait(
    '',
    '<path class="k" d="M64 80c-2-36 16-48 36-48s40 12 36 48c-6-14-10-20-22-24-14-2-28 0-36 4-8 4-12 10-14 20z"/><circle cx="84" cy="90" r="12"/><circle cx="116" cy="90" r="12"/><path d="M96 90h8"/><path class="k" d="M78 118c6 18 38 18 44 0 2 24-12 32-22 32s-24-8-22-32z"/>',
    'a',
  ),
  'calendar-day': object(
    `<path class="c" d="M48 46h144v130H48z"/><path class="d" d="M48 46h144v34H48z"/><path d="M84 32v26M156 32v26"/><path class="a" d="M106 118h28v26h-28z"/><path class="h" d="M70 98h14M113 98h14M156 98h14M70 131h14M156 131h14M70 160h14M113 160h14M156 160h14"/>`,
  ),
  'compass-map': object(
    `<path class="c" d="M24 60l54-18 60 18 78-22v112l-78 22-60-18-54 18z"/><path class="h" d="M78 42v112M138 60v112"/><path d="M40 136c24-30 40-4 60-28s30-44 60-38" stroke-dasharray="3 8"/><circle class="a" cx="158" cy="112" r="40"/><circle class="c" cx="158" cy="112" r="29"/><path class="d" d="M158 88l9 24-9 24-9-24z"/>`,
  ),
  'two-cups': scene(
    `<circle class="b o" cx="160" cy="100" r="92"/><path class="c" d="M40 130h240v14H40z"/><path d="M70 144v60M250 144v60"/><path class="a" d="M92 92h46v16c0 14-8 22-23 22s-23-8-23-22z"/><path d="M92 96c-16-2-16 22 2 20"/><path class="d" d="M182 92h46v16c0 14-8 22-23 22s-23-8-23-22z"/><path d="M228 96c16-2 16 22-2 20"/><path class="h" d="M106 80c-6-10 6-14 0-26M124 80c-6-10 6-14 0-26M196 80c-6-10 6-14 0-26M214 80c-6-10 6-14 0-26"/>${FLOOR.replace('M28 176h184', 'M20 204h280')}`,
  ),
};
