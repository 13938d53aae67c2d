import { FLOOR, object, scene } from './drawing';

export const craft = {
  pottery: object(
    `${FLOOR}<path class="a" d="M60 120h76c0 34-14 56-24 56H84c-10 0-24-22-24-56z"/><path class="c" d="M56 112h84v10H56z"/><path class="d" d="M150 72c-2 20-14 34-14 62 0 24 10 42 20 42h26c10 0 20-18 20-42 0-28-12-42-14-62z"/><path class="c" d="M146 62h46v10h-46z"/><path d="M200 96c22-2 22 40 2 42"/><path class="h" d="M72 138h52M140 116h58M138 128h62"/>`,
  ),
  loom: object(
    `<path class="c" d="M44 30h152v18H44zM44 158h152v18H44z"/><path d="M52 48v110M188 48v110"/><path class="h" d="M68 48v110M80 48v110M92 48v110M104 48v110M116 48v110M128 48v110M140 48v110M152 48v110M164 48v110M176 48v110"/><path class="d" d="M60 128h120v30H60z"/><path class="a" d="M60 108h120v20H60z"/><path class="a" d="M70 84c20-10 54-10 74 0-20 10-54 10-74 0z"/>`,
  ),
  'scissors-cloth': object(
    `<path class="a" d="M34 120c28-18 50 12 86-4s62-4 86-10v66c-28 8-54-6-86 8s-60-8-86 4z"/><path class="h" d="M40 136c26-14 48 10 80-4s60-2 84-8" stroke-dasharray="6 7"/><path class="c" d="M112 98L66 34l-8 6 40 70zM128 98l46-64 8 6-40 70z"/><circle class="d" cx="92" cy="128" r="17"/><circle class="d" cx="148" cy="128" r="17"/><circle class="b" cx="92" cy="128" r="7"/><circle class="b" cx="148" cy="128" r="7"/>`,
  ),
  'tool-wall': scene(
    `<path class="b o" d="M14 14h292v150H14z"/><path d="M14 48h292"/><path class="a" d="M52 48h10v44h-10zM40 92h34v22H40z"/><path class="d" d="M112 48h12v16h-12zM108 64h20v62l-10 16-10-16z"/><path class="c" d="M166 48h8v36h-8zM156 84h28l6 54h-40z"/><path d="M236 48v30"/><circle class="d" cx="236" cy="104" r="26"/><circle class="b" cx="236" cy="104" r="10"/><path class="c" d="M20 176h280v20H20z"/><path class="a" d="M70 152h58v24H70z"/><path d="M82 152v-12h34v12M40 196v18M280 196v18"/>`,
  ),
  'wrapped-parcel': object(
    `${FLOOR}<path class="a" d="M48 84l72-34 72 34v68l-72 24-72-24z"/><path class="c" d="M48 84l72-34 72 34-72 30z"/><path class="d" d="M120 114v62l72-24V84z"/><path d="M84 67l72 32v66M156 67L84 99v66"/><path class="b" d="M120 82c-24-22-40-12-34-2s22 6 34 2zM120 82c24-22 40-12 34-2s-22 6-34 2z"/>`,
  ),
  'candle-pair': object(
    `${FLOOR}<path class="c" d="M76 96h36v80H76z"/><path class="a" d="M132 118h40v58h-40z"/><path d="M94 96V84M152 118v-12"/><path class="d" d="M94 84c-16-14-2-28 0-42 6 14 16 28 0 42zM152 106c-14-12-2-24 0-36 6 12 14 24 0 36z"/><path class="h" d="M76 110c12 8 10 22 18 22s4-20 18-12"/>`,
  ),
  'yarn-ball': object(
    `${FLOOR}<circle class="a" cx="112" cy="116" r="60"/><path class="h" d="M62 84c30 8 66 44 74 84M80 66c36 10 76 52 84 84M104 56c28 8 60 40 68 66M60 132c30-4 56 10 78 38M148 68c-40 6-78 40-88 72"/><path d="M168 136c26 8 10 40 46 40"/><path d="M66 34l92 100M182 28L70 142"/><circle class="d" cx="62" cy="30" r="7"/><circle class="d" cx="186" cy="24" r="7"/>`,
  ),
};
