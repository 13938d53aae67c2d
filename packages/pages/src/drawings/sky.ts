import { type Drawing, scene } from './drawing';

const stars = (points: Array<[number, number]>, fill = 'a') =>
  points.map(([x, y]) => `<path class="${fill} o" d="M${x} ${y - 6}l2 4 4 2-4 2-2 4-2-4-4-2 4-2z"/>`).join('');
/** A moon with its light to one side: how far the edge of the shade bulges tells the phase. */
const phase = (x: number, bulge: number, isWaxing: boolean) =>
  `<circle class="d" cx="${x}" cy="110" r="25"/><path class="a o" d="M${x} 85a25 25 0 0 ${isWaxing ? 1 : 0} 0 50a${Math.abs(bulge)} 25 0 0 ${bulge > 0 === isWaxing ? 1 : 0} 0-50z"/>`;

export const sky = {
  'moon-hills': scene(
    `<path class="d o" d="M10 10h300v200H10z"/>${stars([
      [40, 40],
      [92, 66],
      [140, 34],
      [66, 96],
      [276, 34],
      [184, 60],
      [292, 92],
    ])}<circle class="a o" cx="226" cy="72" r="34"/><circle class="d o" cx="240" cy="64" r="30"/><path class="c" d="M10 176c50-40 90-34 140-8s100 8 160-20v62H10z" opacity=".9"/><path class="b" d="M10 196c60-22 120-10 170 0s90 4 130-12v26H10z"/><path d="M74 172v-16l10-10 10 10v16z" class="a"/>`,
  ),
  'moon-phases': [
    360,
    220,
    `<path d="M20 110h320" stroke-dasharray="2 9"/><circle class="d" cx="40" cy="110" r="25"/>${phase(96, -18, true)}${phase(152, 12, true)}<circle class="a" cx="208" cy="110" r="25"/>${phase(264, 12, false)}${phase(320, -18, false)}<path class="h" d="M40 156v14M208 156v14"/>`,
  ] as Drawing,
  'telescope-night': scene(
    `<path class="d o" d="M10 10h300v180H10z"/>${stars([
      [48, 44],
      [110, 30],
      [160, 74],
      [250, 40],
      [282, 96],
      [84, 98],
    ])}<g stroke="var(--on-dark)"><path d="M200 190l-34-66-34 66M166 124v66"/><path class="c" d="M98 128l112-62 12 22-112 62z"/><path class="a" d="M206 58l16-9 18 33-16 9zM92 124l10-6 14 26-10 5z"/><path d="M40 190h250"/></g><path class="b o" d="M10 190h300v20H10z"/>`,
  ),
  constellation: [
    320,
    220,
    `<circle class="b o" cx="160" cy="110" r="104"/><path class="h" d="M66 152l46-52 54 20 44-60 44 40-38 58-50-38M112 100L98 48"/>${[
      [66, 152],
      [112, 100],
      [166, 120],
      [210, 60],
      [254, 100],
      [216, 158],
      [98, 48],
    ]
      .map(([x, y], index) => `<circle class="${index % 2 ? 'd' : 'a'}" cx="${x}" cy="${y}" r="${index === 3 ? 11 : 7}"/>`)
      .join('')}`,
  ] as Drawing,
  'orbit-rings': [
    320,
    220,
    `<ellipse class="b o" cx="160" cy="110" rx="148" ry="96"/><g class="h"><ellipse cx="160" cy="110" rx="136" ry="60"/><ellipse cx="160" cy="110" rx="100" ry="42"/><ellipse cx="160" cy="110" rx="62" ry="25"/></g><circle class="a" cx="160" cy="110" r="16"/><circle class="d" cx="222" cy="108" r="8"/><circle class="c" cx="82" cy="136" r="10"/><circle class="d" cx="262" cy="70" r="14"/><path d="M242 76c18 4 36-2 42-14"/>`,
  ] as Drawing,
  'sun-rise': scene(
    `<path class="b o" d="M10 10h300v200H10z"/><circle class="a" cx="160" cy="136" r="54"/><path d="M160 62V34M108 80L90 58M212 80l18-22M82 122l-30-10M238 122l30-10"/><path class="d" d="M10 152c40-20 74-20 110 0s90 14 190-10v68H10z"/><path class="c" d="M10 186c70-18 150-2 300-14v38H10z"/>`,
  ),
};
