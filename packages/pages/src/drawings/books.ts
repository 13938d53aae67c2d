import { FLOOR, object, scene } from './drawing';

export const books = {
  'book-standing': object(
    `${FLOOR}<path class="d" d="M84 40h78a6 6 0 0 1 6 6v130H84z"/><path class="c" d="M76 46a8 8 0 0 1 8-8v138h-8z"/><path class="a" d="M102 66h48v36h-48z"/><path d="M102 122h48M102 136h30" stroke="var(--sheet)"/><path class="a" d="M146 40v34l-9-8-9 8V40z"/>`,
  ),
  'books-stack': object(
    `${FLOOR}<path class="a" d="M62 146h112v30H62z"/><path class="c" d="M74 116h108v30H74z"/><path class="d" d="M58 86h106v30H58z"/><path class="b" d="M80 60l92-10 3 26-92 10z"/><path class="h" d="M78 152v18M158 152v18M92 122v18M74 92v18M148 92v18"/><path class="h" d="M110 126h46M92 100h40"/>`,
  ),
  'open-book': object(
    `<path class="d" d="M34 66c30-12 60-10 86 6 26-16 56-18 86-6v98c-30-10-60-8-86 6-26-14-56-16-86-6z"/><path class="c" d="M42 58c28-10 54-8 78 8v98c-24-14-50-16-78-8zM198 58c-28-10-54-8-78 8v98c24-14 50-16 78-8z"/><path class="h" d="M58 80c16-4 32-3 48 4M58 98c16-4 32-3 48 4M58 116c16-4 32-3 48 4M134 84c16-7 32-8 48-4M134 102c16-7 32-8 48-4"/><path class="a" d="M166 50v44l8-7 8 7V52z"/>`,
  ),
  'envelope-open': object(
    `<path class="d" d="M44 92l76-56 76 56v82H44z"/><path class="c" d="M66 52h108v90H66z"/><path class="h" d="M82 74h76M82 90h76M82 106h48"/><path class="a" d="M44 92l76 54 76-54v82H44z"/><path d="M44 174l58-42M196 174l-58-42"/>`,
  ),
  'reading-chair': scene(
    `<path class="b o" d="M20 40a30 30 0 0 1 30-30h220a30 30 0 0 1 30 30v150H20z"/><path class="a" d="M214 62l16-34h32l16 34z"/><path d="M246 62v128M228 190h36"/><path class="d" d="M84 92a18 18 0 0 1 18-18h54a18 18 0 0 1 18 18v50H84z"/><path class="d" d="M66 122a12 12 0 0 1 24 0v20h78v-20a12 12 0 0 1 24 0v48H66z"/><path class="c" d="M92 136h74v18H92zM110 124l24-8 24 8v10l-24-8-24 8z"/><path d="M78 170v20M180 170v20M20 190h280"/><path class="c" d="M40 30h44v54H40z"/><path class="h" d="M62 30v54M40 56h44"/>`,
  ),
  'pen-and-page': object(
    `<path class="c" d="M58 34h96l26 26v118H58z"/><path class="b" d="M154 34v26h26"/><path class="h" d="M76 72h60M76 90h84M76 108h84M76 126h50"/><path class="a" d="M196 62l16 14-66 82-24 10 6-26z"/><path d="M186 74l16 14M128 142l18 16"/>`,
  ),
};
