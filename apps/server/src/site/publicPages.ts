import type { PageDocument, Step } from '@ruta/core';
import type { Db } from '../db/open';
import { latestPublications, type PublicationRow } from '../funnel/store';

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
  private loaded: { bySlug: Map<string, PublicationRow>; byStep: Map<string, LiveStep> } | null = null;
  private kept = new Map<string, KeptPage>();

  constructor(private readonly db: Db) {}

  /** Forgets everything, after something was published or a product, the brand or the shop has changed. */
  clear(): void {
    this.loaded = null;
    this.kept.clear();
  }

  /** The step at `/funnel` or `/funnel/step`. A funnel's address is the one it was published with. */
  at(funnelSlug: string, stepSlug: string | undefined): LiveStep | undefined {
    const publication = this.load().bySlug.get(funnelSlug);
    const step = publication?.snapshot.graph.steps.find((candidate) =>
      stepSlug === undefined ? candidate.id === publication.snapshot.graph.entryId : candidate.slug === stepSlug,
    );
    return step && this.step(step.id);
  }

  /** A published step by its id. */
  step(stepId: string): LiveStep | undefined {
    return this.load().byStep.get(stepId);
  }

  /** Every funnel's latest publication. */
  all(): PublicationRow[] {
    return [...this.load().bySlug.values()];
  }

  private load() {
    if (this.loaded) return this.loaded;
    const bySlug = new Map<string, PublicationRow>();
    const byStep = new Map<string, LiveStep>();
    for (const publication of latestPublications(this.db)) {
      const { slug, graph, pages } = publication.snapshot;
      bySlug.set(slug, publication);
      for (const step of graph.steps) {
        const page = pages[step.id];
        if (page) byStep.set(step.id, { publication, step, page });
      }
    }
    this.loaded = { bySlug, byStep };
    return this.loaded;
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
