import { object, scene } from './drawing';

export const courses = {
  notebook: object(
    `<path class="d" d="M70 30h104a6 6 0 0 1 6 6v136a6 6 0 0 1-6 6H70z"/><path class="c" d="M88 52h72v44H88z"/><path class="h" d="M100 66h48M100 80h30"/><path d="M58 52h22M58 80h22M58 108h22M58 136h22M58 160h22"/><path class="a" d="M164 96l12 6-26 60-13 12 1-18z"/>`,
  ),
  'lesson-path': scene(
    `<path class="b o" d="M0 150c60-50 110-20 160-40s90-70 160-50v160H0z"/><path d="M26 196c70-4 40-54 104-60s34-44 92-50 42-40 70-50" stroke-dasharray="2 9"/><circle class="c" cx="34" cy="194" r="16"/><circle class="d" cx="128" cy="137" r="16"/><circle class="c" cx="220" cy="87" r="16"/><path d="M28 194l5 6 9-11M214 87l5 6 9-11"/><path d="M288 80V24"/><path class="a" d="M288 24l-40 11 40 13z"/>`,
  ),
  blackboard: scene(
    `<path class="d" d="M36 22h248v134H36z"/><path class="c" d="M30 156h260v12H30z"/><g stroke="var(--on-dark)"><path d="M62 56h70M62 78h48M62 100h84"/><circle cx="216" cy="84" r="36"/><path d="M216 84V48M216 84l32 16"/></g><path class="a" d="M238 148h30v8h-30z"/><path d="M70 168l-12 42M250 168l12 42"/>`,
  ),
  'screen-lesson': object(
    `<path class="d" d="M38 42a8 8 0 0 1 8-8h148a8 8 0 0 1 8 8v96H38z"/><path class="c" d="M50 46h140v80H50z"/><path class="a" d="M104 64l36 22-36 22z"/><path class="h" d="M62 116h96"/><circle class="k" cx="120" cy="116" r="4"/><path class="c" d="M26 138h188l-12 24H38z"/><path d="M104 150h32"/>`,
  ),
  certificate: object(
    `<path class="c" d="M40 38h160v112H40z"/><path class="h" d="M50 48h140v92H50z"/><path d="M84 72h72"/><path class="h" d="M72 92h96M84 108h46"/><path class="a" d="M142 140l-6 44 18-12 18 12-6-44z"/><circle class="d" cx="154" cy="124" r="24"/><path d="M144 124l8 8 14-15" stroke="var(--on-dark)"/>`,
  ),
  desk: scene(
    `<path class="b o" d="M60 16h120v104H60z"/><path class="c" d="M68 24h48v88H68zM124 24h48v88h-48z"/><circle class="a" cx="148" cy="60" r="14"/><path d="M20 160h280M44 160v50M276 160v50"/><path class="d" d="M206 108h70v44h-70z"/><path d="M196 160h90l-10-8h-70z" class="c"/><path class="c" d="M66 146h60v14H66z"/><path class="a" d="M72 132h54v14H72z"/><path d="M150 160v-20h20v20M170 144c10 0 10 12 0 12"/>`,
  ),
};
