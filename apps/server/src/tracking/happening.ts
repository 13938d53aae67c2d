import type { TrackedEvent } from '@ruta/core/tracking';

/** An event as it happens: also in which browser, which is told there and kept nowhere. */
export type Happening = TrackedEvent & { browserId?: string | null };
