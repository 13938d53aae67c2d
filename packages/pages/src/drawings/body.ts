import { FLOOR, object } from './drawing';

export const body = {
  'seated-figure': object(
    `${FLOOR}<circle class="c" cx="120" cy="52" r="20"/><path class="k" d="M100 50c0-26 40-26 40 0-10-8-30-8-40 0z"/><path class="a" d="M100 82c8-6 32-6 40 0l10 56H90z"/><path class="d" d="M52 168c-4-16 20-30 68-32 48 2 72 16 68 32-20 10-116 10-136 0z"/><path d="M100 86c-18 18-28 40-34 60M140 86c18 18 28 40 34 60M84 160c24-10 48-10 72 0"/>`,
  ),
  'stretch-figure': object(
    `${FLOOR}<circle class="c" cx="66" cy="96" r="16"/><path class="a" d="M80 104c30-20 60-30 88-8l-6 28c-26-14-48-6-72 8z"/><path class="d" d="M150 98c26 2 36 20 36 44l14 32h-22l-14-34-18-16z"/><path d="M86 116L66 174M98 120l-6 54"/><path class="k" d="M54 88c4-14 24-14 28 0-8-2-16-2-28 0z"/>`,
  ),
  'bath-bottles': object(
    `${FLOOR}<path class="a" d="M62 86h44v90H62z"/><path class="k" d="M74 66h20v20H74z"/><path d="M74 70H60"/><path class="d" d="M116 106h34v70h-34z"/><path class="c" d="M122 92h22v14h-22z"/><path class="c" d="M70 108h28v36H70z"/><path class="c" d="M158 152h52a12 12 0 0 1 0 24h-52zM162 128h44a12 12 0 0 1 0 24h-44z"/><path class="h" d="M78 122h12"/>`,
  ),
  'running-shoe': object(
    `<path class="a" d="M34 92c14 10 34 4 44-14 24 20 46 44 98 52 22 4 32 14 32 28H34z"/><path class="c" d="M28 158h184c0 12-8 18-18 18H44c-10 0-16-6-16-18z"/><path class="d" d="M34 92c14 10 34 4 44-14l14 12c-10 20-36 30-58 26z"/><path d="M104 108l-14 14M120 118l-14 14M136 126l-12 14"/><path class="h" d="M46 168h140"/>`,
  ),
  'stones-balance': object(
    `${FLOOR}<path class="d" d="M60 158c0-14 30-22 62-22s58 8 58 22-28 18-58 18-62-4-62-18z"/><path class="a" d="M80 118c0-12 20-18 42-18s38 6 38 18-18 18-38 18-42-6-42-18z"/><path class="c" d="M92 84c0-10 14-16 28-16s26 6 26 16-12 16-26 16-28-6-28-16z"/><path class="d" d="M106 54c0-8 8-12 15-12s13 5 13 12-6 14-13 14-15-6-15-14z"/><path class="h" d="M74 156c14-6 30-8 44-8"/>`,
  ),
};
