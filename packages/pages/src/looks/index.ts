import { type Brand, LOOKS, type LookName } from '@ruta/core/shop';
import { almanac } from './almanac';
import { garden } from './garden';
import { harbour } from './harbour';
import { ledger } from './ledger';
import type { Look } from './look';
import { night } from './night';
import { plain } from './plain';
import { poster } from './poster';
import { stage } from './stage';
import { workshop } from './workshop';

/** Every look by its name. A further one is one more file here, and its name and purpose in `core/shop/looks.ts`. */
const FILES = { plain, almanac, poster, workshop, harbour, night, ledger, garden, stage } satisfies Record<LookName, Look>;

/** The look of a brand; one from before there were looks is plain. */
export const lookOf = ({ look }: Pick<Brand, 'look'>): Look => FILES[look ?? 'plain'];

/** How heavy the headlines of a brand are: as its look wants them, within what its typeface has. */
export const headingWeight = ({ look }: Pick<Brand, 'look'>): number => LOOKS[look ?? 'plain'].weight;

export { PLAIN_TOKENS } from './look';
