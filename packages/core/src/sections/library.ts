import { benefits } from './benefits';
import { footer } from './footer';
import { guarantee } from './guarantee';
import { opening } from './opening';
import type { ReadySection } from './plan';
import { price } from './price';
import { proof } from './proof';
import { questions } from './questions';
import { story } from './story';

/** Ready sections that can be added to any page, in the order of the library. */
export const SECTIONS = [opening, story, benefits, proof, price, questions, guarantee, footer] as const satisfies readonly ReadySection[];
