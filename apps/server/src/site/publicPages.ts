import type { PageDocument, Step } from '@ruta/core';
import { findProducts } from '../catalog/store';
import type { Db } from '../db/open';
import { latestPublications, type PublicationRow } from '../funnel/store';
import { findShop, type ShopRow } from '../shop/store';

/** A published step with everything needed to show it. */
export interface LiveStep {
  publication: PublicationRow;
  step: Step;
  page: PageDocument;
}

/** How long a page with a price may be kept: a sale that begins or ends shows within this time. */
const KEPT_MS = 30_000;

export interface KeptPage {
  html: Buffer;
  gzip: Buffer;
  etag: string;
}

/** What is published, kept in memory: the snapshots, and the HTML of pages that are the same for everybody. */
export class PublicPages {
  private loaded: { bySlug: Map<string, PublicationRow>; byStep: Map<string, LiveStep>; closesAt: Map<string, number> } | null = null;
  private kept = new Map<string, { page: KeptPage; until: number }>();
  private shopRow: ShopRow | undefined;

  constructor(private readonly db: Db) {}

  /** Forgets everything, after something was published or a product, the brand or the shop has changed. */
  clear(): void {
    this.loaded = null;
    this.shopRow = undefined;
    this.kept.clear();
  }

  /** The shop as visitors see it; undefined before it is set up. */
  shop(): ShopRow | undefined {
    this.shopRow ??= findShop(this.db);
    return this.shopRow;
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

  /** When what a step offers closes; undefined if it does not. Unix time in milliseconds. */
  closesAt(stepId: string): number | undefined {
    return this.load().closesAt.get(stepId);
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
    const closesAt = new Map<string, number>();
    const offering = [...byStep.values()].filter(({ step }) => step.productId && (step.kind === 'sales' || step.kind === 'checkout'));
    const products = findProducts(this.db, [...new Set(offering.flatMap(({ step }) => step.productId ?? []))]);
    for (const { step } of offering) {
      const at = products.find((product) => product.id === step.productId)?.closesAt;
      if (at) closesAt.set(step.id, at);
    }
    this.loaded = { bySlug, byStep, closesAt };
    return this.loaded;
  }

  /**
   * The page kept under a key, made anew once it is too old.
   * @param now Unix time in milliseconds
   */
  keep(key: string, now: number, make: () => KeptPage): KeptPage {
    const known = this.kept.get(key);
    if (known && known.until > now) return known.page;
    const page = make();
    this.kept.set(key, { page, until: now + KEPT_MS });
    return page;
  }
}
