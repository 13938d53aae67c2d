import type { PageDocument, Step } from '@ruta/core';
import { isNull } from 'drizzle-orm';
import type { Db } from '../db/open';
import { latestPublication, publicationAt, type PublicationRow } from '../funnel/store';
import { funnels } from '../funnel/tables';

/** A published step with everything needed to show it. */
export interface LiveStep {
  publication: PublicationRow;
  step: Step;
  page: PageDocument;
}

export interface KeptPage {
  html: Buffer;
  gzip: Buffer;
  etag: string;
}

/** What is published, kept in memory: the snapshots, and the HTML of pages that are the same for everybody. */
export class PublicPages {
  private bySlug = new Map<string, PublicationRow>();
  private kept = new Map<string, KeptPage>();

  constructor(private readonly db: Db) {}

  /** Forgets everything, after something was published or a product, the brand or the shop has changed. */
  clear(): void {
    this.bySlug.clear();
    this.kept.clear();
  }

  /** The publication at a public address; unknown addresses are not remembered, since there is no end of them. */
  publication(slug: string): PublicationRow | undefined {
    const known = this.bySlug.get(slug);
    if (known) return known;
    const found = publicationAt(this.db, slug);
    if (found) this.bySlug.set(slug, found);
    return found;
  }

  /** The step at `/funnel` or `/funnel/step`. */
  at(funnelSlug: string, stepSlug: string | undefined): LiveStep | undefined {
    const publication = this.publication(funnelSlug);
    if (!publication) return undefined;
    const { graph } = publication.snapshot;
    const step = graph.steps.find((candidate) => (stepSlug === undefined ? candidate.id === graph.entryId : candidate.slug === stepSlug));
    return step && liveStep(publication, step);
  }

  /** A published step by its id. */
  step(stepId: string): LiveStep | undefined {
    for (const publication of this.all()) {
      const step = publication.snapshot.graph.steps.find((candidate) => candidate.id === stepId);
      if (step) return liveStep(publication, step);
    }
    return undefined;
  }

  /** Every funnel's latest publication. */
  all(): PublicationRow[] {
    return this.db
      .select({ id: funnels.id, slug: funnels.slug })
      .from(funnels)
      .where(isNull(funnels.archivedAt))
      .all()
      .flatMap(({ id, slug }) => this.bySlug.get(slug) ?? latestPublication(this.db, id) ?? []);
  }

  keep(key: string, make: () => KeptPage): KeptPage {
    let page = this.kept.get(key);
    if (!page) {
      page = make();
      this.kept.set(key, page);
    }
    return page;
  }
}

function liveStep(publication: PublicationRow, step: Step): LiveStep | undefined {
  const page = publication.snapshot.pages[step.id];
  return page && { publication, step, page };
}
