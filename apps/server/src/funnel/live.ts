import type { Step } from '@ruta/core/funnel';
import type { PageDocument } from '@ruta/core/page';
import type { Services } from '../base/services';
import { formerAddresses, latestPublications, type Publication } from './store';

/** A published step with everything needed to show it. */
export interface LiveStep {
  publication: Publication;
  step: Step;
  page: PageDocument;
}

/** What areas that lead visitors through funnels work with. */
export interface LiveServices extends Services {
  live: LiveFunnels;
}

/** What is published, kept in memory until something is published anew. */
export class LiveFunnels {
  private loaded: { bySlug: Map<string, Publication>; byStep: Map<string, LiveStep>; moved: Map<string, string> } | null = null;

  constructor(private readonly services: Pick<Services, 'db' | 'changes'>) {
    services.changes.onChange(() => {
      this.loaded = null;
    });
  }

  /** The step at `/funnel` or `/funnel/step`. A funnel's address is the one it was published with. */
  at(funnelSlug: string, stepSlug: string | undefined): LiveStep | undefined {
    const publication = this.load().bySlug.get(funnelSlug);
    const step = publication?.snapshot.graph.steps.find((candidate) =>
      stepSlug === undefined ? candidate.id === publication.snapshot.graph.entryId : candidate.slug === stepSlug,
    );
    return step && this.step(step.id);
  }

  /** The step that stood at an address that is no longer used, in a funnel that is still live. */
  formerlyAt(funnelSlug: string, stepSlug: string | undefined): LiveStep | undefined {
    const stepId = this.load().moved.get(stepSlug === undefined ? funnelSlug : `${funnelSlug}/${stepSlug}`);
    return stepId === undefined ? undefined : this.step(stepId);
  }

  /** A published step by its id. */
  step(stepId: string): LiveStep | undefined {
    return this.load().byStep.get(stepId);
  }

  /** Every funnel's latest publication. */
  all(): Publication[] {
    return [...this.load().bySlug.values()];
  }

  private load() {
    if (this.loaded) return this.loaded;
    const bySlug = new Map<string, Publication>();
    const byStep = new Map<string, LiveStep>();
    for (const publication of latestPublications(this.services.db)) {
      const { slug, graph, pages } = publication.snapshot;
      bySlug.set(slug, publication);
      for (const step of graph.steps) {
        const page = pages[step.id];
        if (page) byStep.set(step.id, { publication, step, page });
      }
    }
    const moved = new Map<string, string>();
    for (const { funnelId, snapshot } of bySlug.values()) {
      for (const { slug, stepId, stepSlug } of formerAddresses(this.services.db, funnelId)) {
        // Where a step is gone, its funnel's beginning is nearer to what was looked for than nothing.
        moved.set(`${slug}/${stepSlug}`, byStep.has(stepId) ? stepId : snapshot.graph.entryId);
        moved.set(slug, snapshot.graph.entryId);
      }
    }
    this.loaded = { bySlug, byStep, moved };
    return this.loaded;
  }
}

/** The public address of a step, below the site's. */
export function stepPath({ publication, step }: { publication: { snapshot: Pick<Publication['snapshot'], 'slug' | 'graph'> }; step: Step }): string {
  const { slug, graph } = publication.snapshot;
  return step.id === graph.entryId ? `/${slug}` : `/${slug}/${step.slug}`;
}
