import type { DrawingName } from '@ruta/core/elements';
import { any } from './any';
import { body } from './body';
import { books } from './books';
import { courses } from './courses';
import { craft } from './craft';
import type { Drawing } from './drawing';
import { events } from './events';
import { food } from './food';
import { garden } from './garden';
import { home } from './home';
import { music } from './music';
import { services } from './services';
import { sky } from './sky';
import { tools } from './tools';

/** How each drawing is drawn. A further one is its name in `core/elements/drawings.ts` and its shapes in the file of its trade. */
const ART: Record<DrawingName, Drawing> = {
  ...any,
  ...books,
  ...courses,
  ...craft,
  ...music,
  ...sky,
  ...food,
  ...garden,
  ...body,
  ...home,
  ...tools,
  ...services,
  ...events,
};

/** A drawing's field and shapes. */
export const drawingOf = (name: DrawingName): { width: number; height: number; shapes: string } => {
  const [width, height, shapes] = ART[name];
  return { width, height, shapes };
};

export { patternRule } from './patterns';
