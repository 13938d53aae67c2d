import { object } from './drawing';

const teeth = (x: number, y: number, inner: number, outer: number, count: number) =>
  Array.from({ length: count }, (_, index) => {
    const at = (radius: number, turn: number) => {
      const angle = ((index + turn) / count) * Math.PI * 2;
      return `${(x + radius * Math.cos(angle)).toFixed(1)} ${(y + radius * Math.sin(angle)).toFixed(1)}`;
    };
    return `${index === 0 ? 'M' : 'L'}${at(inner, 0)}L${at(outer, 0.12)}L${at(outer, 0.42)}L${at(inner, 0.54)}`;
  }).join('');

export const tools = {
  'sheet-grid': object(
    `<path class="c" d="M44 34h152v136H44z"/><path class="d" d="M44 34h152v26H44z"/><path class="a" d="M44 60h40v110H44z"/><path class="h" d="M84 60v110M122 60v110M160 60v110M44 82h152M44 104h152M44 126h152M44 148h152"/><path d="M94 94h18M132 94h18M94 116h18M170 116h16M132 138h18M170 160h16"/>`,
  ),
  'chart-rising': object(
    `<path d="M42 32v142h160"/><path class="b" d="M58 134h22v40H58zM92 112h22v62H92z"/><path class="d" d="M126 92h22v82h-22z"/><path class="a" d="M160 62h22v112h-22z"/><path d="M54 108l40-26 32 8 60-52"/><path d="M170 36l18 0 0 18"/>`,
  ),
  'laptop-page': object(
    `<path class="d" d="M44 48a8 8 0 0 1 8-8h136a8 8 0 0 1 8 8v98H44z"/><path class="c" d="M56 52h128v82H56z"/><path class="a" d="M66 62h50v40H66z"/><path class="h" d="M126 68h48M126 82h48M126 96h30M66 116h108"/><path class="c" d="M28 146h184l-8 20H36z"/><path d="M104 156h32"/>`,
  ),
  'phone-page': object(
    `<path class="k" d="M80 26a12 12 0 0 1 12-12h56a12 12 0 0 1 12 12v148a12 12 0 0 1-12 12H92a12 12 0 0 1-12-12z"/><path class="c" d="M88 34h64v126H88z"/><path class="a" d="M96 44h48v44H96z"/><path class="h" d="M98 102h44M98 114h44M98 126h26"/><path class="d" d="M96 138h48v14H96z"/><circle class="c o" cx="120" cy="173" r="5"/>`,
  ),
  'file-stack': object(
    `<path class="d" d="M82 30h74l22 22v96H82z"/><path class="a" d="M68 44h74l22 22v96H68z"/><path class="c" d="M54 58h74l22 22v98H54z"/><path class="b" d="M128 58v22h22"/><path class="h" d="M70 100h60M70 116h60M70 132h40"/><path d="M70 156l8 8 16-18"/>`,
  ),
  gears: object(
    `<path class="d" d="${teeth(98, 110, 44, 58, 9)}z"/><circle class="b" cx="98" cy="110" r="18"/><path class="a" d="${teeth(174, 66, 25, 37, 8)}z"/><circle class="b" cx="174" cy="66" r="10"/>`,
  ),
};
