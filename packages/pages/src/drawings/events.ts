import { type Drawing, object, scene } from './drawing';

const flag = (x: number, y: number, fill: string) => `<path class="${fill}" d="M${x} ${y}h36l-18 44z"/>`;
const head = (x: number, y: number, fill: string) =>
  `<circle class="c" cx="${x}" cy="${y}" r="20"/><path class="${fill}" d="M${x - 36} 220c0-40 14-58 36-58s36 18 36 58z"/><path class="k" d="M${x - 21} ${y + 2}c-2-32 44-32 42 0-6 10-36 10-42 0z"/>`;

export const events = {
  'stage-lights': scene(
    `<path class="d o" d="M10 10h300v200H10z"/><path class="a o" d="M84 34l60 136H24zM236 34l60 136H176z" opacity=".55"/><path class="c o" d="M160 34l56 136H104z" opacity=".5"/><path class="k" d="M70 14h28v22H70zM146 14h28v22h-28zM222 14h28v22h-28z"/><path class="c" d="M10 170h300v40H10z"/><path d="M160 168v-54" stroke="var(--on-dark)"/><circle class="a" cx="160" cy="106" r="11"/><path class="h" d="M30 190h260"/>`,
  ),
  'ticket-torn': object(
    `<path class="a" d="M30 72l150-28 6 26a16 16 0 0 0 6 32l6 26-150 28-6-26a16 16 0 0 0-6-32z"/><path class="h" d="M144 52l16 92" stroke-dasharray="6 7"/><path d="M56 92l66-12M60 112l52-10M64 130l34-6"/><path class="d" d="M170 80l4 8 9 0-7 6 3 9-8-5-8 6 2-9-8-5 10-1z"/>`,
  ),
  'flags-row': [
    320,
    220,
    `<path d="M10 46c60 44 240 44 300 0M10 118c70 36 230 36 300 0"/>${flag(34, 62, 'a')}${flag(88, 76, 'd')}${flag(142, 80, 'c')}${flag(196, 76, 'a')}${flag(250, 62, 'd')}${flag(60, 138, 'd')}${flag(114, 144, 'c')}${flag(168, 144, 'a')}${flag(222, 138, 'd')}`,
  ] as Drawing,
  'crowd-heads': scene(
    `<path class="b o" d="M10 10h300v200H10z"/><path class="c" d="M96 30h128v76H96z"/><path class="a" d="M138 46l44 22-44 22z"/>${head(50, 146, 'a')}${head(122, 152, 'd')}${head(196, 148, 'a')}${head(268, 152, 'd')}`,
  ),
};
