import { object, scene } from './drawing';

export const home = {
  'house-front': scene(
    `<path class="b o" d="M0 176h320v44H0z"/><path class="c" d="M76 84h168v96H76z"/><path class="d" d="M58 90l102-66 102 66z"/><path class="k" d="M206 36h20v30l-20-14z"/><path class="a" d="M142 122h36v58h-36z"/><path class="b" d="M94 108h30v34H94zM196 108h30v34h-30z"/><path class="h" d="M109 108v34M94 125h30M211 108v34M196 125h30"/><path class="a" d="M30 180c-14-20-4-44 10-48 14 4 24 28 10 48zM270 180c-14-20-4-44 10-48 14 4 24 28 10 48z"/><path d="M10 180h300"/>`,
  ),
  'lamp-table': object(
    `<path class="c" d="M36 138h168v12H36z"/><path d="M54 150v34M186 150v34"/><path class="a" d="M78 82l18-46h40l18 46z"/><path d="M116 82v40"/><path class="d" d="M96 122h40l8 16H88z"/><path class="d" d="M156 124h36v14h-36z"/><path class="c" d="M160 112h30v12h-30z"/><path class="h" d="M66 96l-12 12M166 96l10 8M116 92v0"/>`,
  ),
  'armchair-plant': scene(
    `<path class="b o" d="M16 16h288v170H16z"/><path class="c" d="M36 34h70v56H36z"/><path class="a" d="M36 90l24-30 18 18 12-12 16 24z"/><path class="d" d="M108 88a18 18 0 0 1 18-18h54a18 18 0 0 1 18 18v60h-90z"/><path class="d" d="M92 124a12 12 0 0 1 24 0v20h74v-20a12 12 0 0 1 24 0v44H92z"/><path class="a" d="M122 130h62v16h-62z"/><path d="M104 168v18M202 168v18"/><path d="M258 150V96"/><path class="a" d="M258 124c-28 2-36-20-34-32 22-2 36 12 34 32zM258 108c26 0 34-20 32-34-22 0-34 14-32 34z"/><path class="c" d="M238 150h40l-6 36h-28z"/><path d="M10 186h300"/>`,
  ),
  'key-tag': object(
    `<circle class="a" cx="86" cy="82" r="40"/><circle class="b" cx="86" cy="82" r="17"/><path class="d" d="M112 104l14-14 76 76-14 14-12-12-12 12-10-10 12-12-8-8-10 10-10-10 10-10z"/><path d="M74 116c-10 16-26 14-30 30"/><path class="c" d="M28 140l28 2 6 36-32 6-14-20z"/><circle class="k" cx="42" cy="152" r="3"/>`,
  ),
};
