import { type Drawing, FLOOR, object, scene } from './drawing';

const rays = Array.from({ length: 24 }, (_, index) => {
  const angle = (index / 24) * Math.PI * 2;
  const radius = index % 2 ? 62 : 76;
  return `${index === 0 ? 'M' : 'L'}${(120 + radius * Math.cos(angle)).toFixed(1)} ${(88 + radius * Math.sin(angle)).toFixed(1)}`;
}).join('');

export const any = {
  'seal-promise': [
    240,
    220,
    `<path class="d" d="M84 132l-20 76 34-16 22 20 22-20 34 16-20-76z"/><path class="a" d="${rays}z"/><circle class="c" cx="120" cy="88" r="44"/><path d="M98 88l16 17 30-34" stroke-width="6"/>`,
  ] as Drawing,
  'box-open': object(
    `${FLOOR}<path class="a" d="M58 92h124v84H58z"/><path class="c" d="M58 92L30 64l62-18 28 28zM182 92l28-28-62-18-28 28z"/><path class="d" d="M58 92l62-18 62 18-62 14z"/><path d="M120 106v70"/><path class="h" d="M104 52c-10-12 8-18 0-30M136 52c10-12-8-18 0-30"/>`,
  ),
  'gift-bow': object(
    `${FLOOR}<path class="a" d="M60 100h120v76H60z"/><path class="d" d="M50 76h140v26H50z"/><path class="c" d="M108 76h24v100h-24z"/><path class="c" d="M120 74c-20-44-58-36-54-14 4 18 34 16 54 14zM120 74c20-44 58-36 54-14-4 18-34 16-54 14z"/>`,
  ),
  'road-way': scene(
    `<path class="b o" d="M10 10h300v200H10z"/><circle class="a" cx="218" cy="72" r="26"/><path class="c" d="M10 118c50-34 80-34 120-10s110 0 180-20v122H10z"/><path class="d" d="M150 102h18c-10 30 40 46 66 108H64c70-30 110-70 86-108z"/><path d="M160 112c2 20 10 34 14 48M180 172l6 26" stroke="var(--on-dark)" stroke-dasharray="8 9"/><path d="M66 132v-24M66 108c-16-14-8-34 0-40 8 6 16 26 0 40z" class="a"/>`,
  ),
};
