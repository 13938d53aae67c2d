import type { PictureInfo } from '@ruta/core/catalog';
import type { PageDocument } from '@ruta/core/page';
import { type Kept, unsavedStore } from '../base/unsavedStore';

interface UnsavedDraft {
  stepId: string;
  place: PagePlace;
  /** The server's revision that the changes were made on. */
  revision: number;
  page: PageDocument;
  /** The page as it was at that revision, so that another window's changes can be told from one's own. */
  base?: PageDocument | null;
  pictures: Record<string, PictureInfo>;
  /** What was on its way when this was set aside: it may have arrived or not. */
  sending: PageDocument | null;
}

/** A page that was changed in this browser and that the server does not have yet. */
export type Unsaved = UnsavedDraft & Kept;

/** Where a page belongs: its funnel, and its stop's name. */
export interface PagePlace {
  funnelId: string;
  name: string;
}

/** The pages that the server does not have as they were changed here; one entry for each step. */
export const unsavedPages = unsavedStore<UnsavedDraft>('ruta.unsaved.', ({ stepId }) => stepId);
