import { FLOOR, object, scene } from './drawing';

export const food = {
  'bread-board': object(
    `<path class="c" d="M26 148h164a8 8 0 0 1 8 8v12a8 8 0 0 1-8 8H26z"/><path d="M198 162h24"/><path class="a" d="M52 148c-14-50 30-82 66-82s80 32 66 82z"/><path d="M84 84l14 26M116 74l14 30M148 82l12 26"/><path class="h" d="M64 128c8-12 16-20 26-26"/>`,
  ),
  'cup-steam': object(
    `${FLOOR}<path class="a" d="M62 88h98v40c0 28-18 48-49 48s-49-20-49-48z"/><path d="M160 100c36-8 36 46-6 42"/><path class="d" d="M62 88h98v14H62z"/><path d="M92 70c-10-14 10-22 0-38M120 70c-10-14 10-22 0-38"/><path class="c" d="M44 176h136v8H44z"/>`,
  ),
  'bowl-fruit': object(
    `${FLOOR}<circle class="a" cx="86" cy="84" r="28"/><circle class="d" cx="136" cy="78" r="32"/><circle class="c" cx="170" cy="96" r="22"/><path d="M136 46c0-12 8-16 16-18M86 56c0-8 4-12 10-14"/><path class="k" d="M152 28c10-6 20 0 22 8-10 4-20 0-22-8z"/><path class="c" d="M46 106h148c0 44-28 70-50 70H96c-22 0-50-26-50-70z"/><path class="h" d="M58 128h124"/>`,
  ),
  'jar-preserve': object(
    `${FLOOR}<path class="c" d="M78 66h84c10 6 14 14 14 26v72a12 12 0 0 1-12 12H76a12 12 0 0 1-12-12V92c0-12 4-20 14-26z"/><path class="a" d="M64 100h112v64a12 12 0 0 1-12 12H76a12 12 0 0 1-12-12z"/><path class="d" d="M74 44h92v22H74z"/><path class="c" d="M86 112h68v40H86z"/><path class="h" d="M98 126h44M98 138h28"/><path d="M66 58l108 0" stroke="var(--sheet)"/>`,
  ),
  'pan-herbs': object(
    `<circle class="k" cx="100" cy="112" r="66"/><circle class="d" cx="100" cy="112" r="52"/><path class="c" d="M160 78l48-46 14 14-48 48z"/><path class="a" d="M76 104a22 22 0 1 1 30 24c-16 6-30-4-30-24z"/><circle class="c" cx="92" cy="108" r="9"/><path d="M120 140c10-4 18-12 20-24M128 136l10 6M132 128l12 2" stroke="var(--on-dark)"/>`,
  ),
  'table-laid': scene(
    `<path class="b o" d="M16 30h288v150H16z"/><circle class="c" cx="160" cy="112" r="64"/><circle class="a" cx="160" cy="112" r="40"/><path class="h" d="M138 112c14-18 34-18 44 0M146 126c10 8 22 6 30-2"/><path d="M66 60v108M54 60v26c0 14 24 14 24 0V60M250 168V60c18 14 20 44 0 60"/><circle class="d" cx="278" cy="56" r="22"/><path class="h" d="M264 56h28"/>`,
  ),
};
