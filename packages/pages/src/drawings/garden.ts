import { FLOOR, object, scene } from './drawing';

const seedling = (x: number, y: number) =>
  `<path d="M${x} ${y}v-26"/><path class="a" d="M${x} ${y - 22}c-20 2-24-14-22-20 14-2 22 6 22 20zM${x} ${y - 22}c20 2 24-14 22-20-14-2-22 6-22 20z"/>`;

export const garden = {
  'potted-plant': object(
    `${FLOOR}<path d="M120 128V66"/><path class="a" d="M120 96C80 98 66 66 70 50c32-2 52 18 50 46zM120 84c36 2 52-28 48-46-30 0-50 18-48 46zM120 70c-20-14-18-38 0-50 18 12 20 36 0 50z"/><path class="d" d="M82 128h76l-10 48H92z"/><path class="c" d="M74 118h92v14H74z"/>`,
  ),
  'seed-rows': scene(
    `<circle class="a o" cx="256" cy="52" r="28"/><path class="b o" d="M0 110h320v110H0z"/><path class="d" d="M10 150h300v14H10zM10 196h300v14H10z"/>${[46, 104, 162, 220, 278].map((x) => seedling(x, 150)).join('')}${[74, 132, 190, 248].map((x) => seedling(x, 196)).join('')}<path d="M10 110h300"/>`,
  ),
  'leaf-sprig': object(
    `<path d="M60 182C90 130 120 90 182 26"/><path class="a" d="M92 134c-34 4-50-18-50-34 30-4 50 10 50 34zM124 94c-32 0-44-24-42-40 28 0 44 16 42 40zM156 56c-24-4-30-26-26-38 20 4 30 18 26 38z"/><path class="d" d="M100 124c8 34 38 40 52 34 0-28-24-42-52-34zM134 84c12 30 40 32 54 24-4-26-28-36-54-24zM166 46c14 18 34 16 44 8-6-18-26-20-44-8z"/>`,
  ),
  'garden-shed': scene(
    `<path class="b o" d="M0 180h320v40H0z"/><path class="c" d="M86 92h140v92H86z"/><path class="d" d="M70 96l86-60 86 60-10 12-76-52-76 52z"/><path class="a" d="M136 122h44v62h-44z"/><path class="b" d="M98 118h26v26H98zM192 118h24v26h-24z"/><path class="h" d="M111 118v26M98 131h26M204 118v26M192 131h24"/><circle class="k" cx="172" cy="154" r="3"/><path d="M36 184v-40M36 144c-24-20-14-50 0-58 14 8 24 38 0 58zM284 184v-26M284 158c-18-16-10-38 0-44 10 6 18 28 0 44z" class="a"/><path d="M10 184h300"/>`,
  ),
  'watering-can': object(
    `${FLOOR}<path class="a" d="M70 92h84v84H70z"/><path d="M88 92c0-40 92-44 66 30"/><path class="d" d="M70 132L32 84l10-8 28 26z"/><path class="c" d="M22 76l26-20 6 10-24 20z"/><path class="h" d="M22 96v14M12 88v14M32 108v12"/><path class="h" d="M82 112h60M82 160h60"/>`,
  ),
  'flower-vase': object(
    `${FLOOR}<path d="M120 116V70M112 116L88 80M128 116l26-38"/><g class="a"><circle cx="120" cy="44" r="12"/><circle cx="106" cy="56" r="12"/><circle cx="134" cy="56" r="12"/><circle cx="112" cy="72" r="12"/><circle cx="128" cy="72" r="12"/></g><circle class="c" cx="120" cy="59" r="9"/><circle class="d" cx="82" cy="72" r="16"/><circle class="c" cx="82" cy="72" r="6"/><circle class="d" cx="160" cy="70" r="16"/><circle class="c" cx="160" cy="70" r="6"/><path class="c" d="M98 112h44c-4 16 14 26 14 44 0 12-10 20-22 20h-28c-12 0-22-8-22-20 0-18 18-28 14-44z"/>`,
  ),
};
