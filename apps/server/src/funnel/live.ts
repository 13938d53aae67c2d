import type { ArmTag } from '@ruta/core/experiments';
import type { Facts } from '@ruta/core/facts';
import type { OfflinePage, Step } from '@ruta/core/funnel';
import type { PageDocument } from '@ruta/core/page';
import type { Services } from '../base/services';
import { addressOfStep } from '../domains/address';
import { formerAddresses, latestPublications, offlinePublications, type Publication } from './store';

/** A published step with everything needed to show it. */
export interface LiveStep {
  publication: Publication;
  step: Step;
  page: PageDocument;
  /** The arms of running tests that it is shown in. */
  arms: ArmTag[];
  /** Tells what differs by arms apart; empty for the funnel as it is published. */
  variant: string;
}

/** For whom something live is looked up: what is tested may be another for each visitor. */
export interface Who {
  visitorId: string | null;
  /** What is known of them; asked only where a test has an audience. */
  facts: () => Facts;
  /** The arms they were in before, as their order keeps them. */
  arms?: readonly ArmTag[] | null;
}

/** What is tested just now, and who sees what of it. */
export interface Variants {
  /** Whether anything of a funnel is tested. */
  isTested: (funnelId: string) => boolean;
  /** The arm of each running test that a visitor is in. */
  choose: (publication: Publication, who: Who) => ArmTag[];
  /** The funnel as those arms have it, and what tells it apart from others. */
  shown: (publication: Publication, arms: readonly ArmTag[]) => { key: string; publication: Publication };
  /** Every arm that somebody may have before them, also of a test that has just ended. */
  open: (publication: Publication) => ArmTag[];
}

/** Where nothing is ever tested. */
const NO_VARIANTS: Variants = { isTested: () => false, choose: () => [], shown: (publication) => ({ key: '', publication }), open: () => [] };

/** What areas that lead visitors through funnels work with. */
export interface LiveServices extends Services {
  live: LiveFunnels;
}

interface Loaded {
  bySlug: Map<string, Publication>;
  byStep: Map<string, Publication>;
  moved: Map<string, string>;
  /** What is shown at the addresses of funnels that were taken offline. */
  offline: Map<string, OfflinePage>;
  /** Publications as some arms have them, by what tells them apart. */
  variants: Map<string, Publication>;
}

/** What is published, kept in memory until something is published anew or a test begins or ends. */
export class LiveFunnels {
  private loaded: Loaded | null = null;

  constructor(
    private readonly services: Pick<Services, 'db' | 'changes'>,
    private readonly variants: Variants = NO_VARIANTS,
  ) {
    services.changes.onChange(() => {
      this.loaded = null;
    });
  }

  /** The step at `/funnel` or `/funnel/step`. A funnel's address is the one it was published with. */
  at(funnelSlug: string, stepSlug: string | undefined, who?: Who): LiveStep | undefined {
    const publication = this.load().bySlug.get(funnelSlug);
    return (
      publication &&
      this.find(publication, this.armsOf(publication, who), ({ id, slug }, { entryId }) => (stepSlug === undefined ? id === entryId : slug === stepSlug))
    );
  }

  /** Whether what stands at a funnel's address differs from visitor to visitor by tests. */
  isTestedAt(funnelSlug: string): boolean {
    const publication = this.load().bySlug.get(funnelSlug);
    return publication !== undefined && this.variants.isTested(publication.funnelId);
  }

  /** The step that stood at an address that is no longer used, in a funnel that is still live. */
  formerlyAt(funnelSlug: string, stepSlug: string | undefined): LiveStep | undefined {
    const stepId = this.load().moved.get(stepSlug === undefined ? funnelSlug : `${funnelSlug}/${stepSlug}`);
    return stepId === undefined ? undefined : this.step(stepId);
  }

  /** What is shown at the address of a funnel that was taken offline, one that it has moved from included; undefined for any other. */
  offlineAt(funnelSlug: string): OfflinePage | undefined {
    return this.load().offline.get(funnelSlug);
  }

  /** Where somebody begins who comes to a stop that only others are shown, or that has gone with its test. */
  insteadOf(funnelSlug: string, stepSlug: string | undefined): LiveStep | undefined {
    const publication = this.load().bySlug.get(funnelSlug);
    if (!publication || stepSlug === undefined) return undefined;
    const isOfArm = this.variants.open(publication).some((arm) => this.find(publication, [arm], ({ slug }) => slug === stepSlug));
    return isOfArm ? this.step(publication.snapshot.graph.entryId) : undefined;
  }

  /** A published step by its id. */
  step(stepId: string, who?: Who): LiveStep | undefined {
    const publication = this.load().byStep.get(stepId);
    return publication && this.find(publication, this.armsOf(publication, who), ({ id }) => id === stepId);
  }

  /**
   * A published step as the visitor sees it, or as they may have had it before them when what they send was made: a page that
   * was open while its test ended, or that was shown to a browser that keeps nothing.
   * @param has whether it is the one that was sent from
   */
  stepHaving(stepId: string, who: Who, has: (page: PageDocument) => boolean): LiveStep | undefined {
    const own = this.step(stepId, who);
    if (own && has(own.page)) return own;
    const publication = this.load().byStep.get(stepId);
    if (!publication) return undefined;
    for (const arms of [[], ...this.variants.open(publication).map((arm) => [arm])]) {
      const other = this.find(publication, arms, ({ id }) => id === stepId);
      // It is still the visitor's own arms that count.
      if (other && has(other.page)) return { ...other, arms: own?.arms ?? [] };
    }
    return own;
  }

  /** Every funnel's latest publication. */
  all(): Publication[] {
    return [...this.load().bySlug.values()];
  }

  private armsOf(publication: Publication, who: Who | undefined): ArmTag[] {
    return who && this.variants.isTested(publication.funnelId) ? this.variants.choose(publication, who) : [];
  }

  private find(base: Publication, arms: ArmTag[], is: (step: Step, graph: Publication['snapshot']['graph']) => boolean): LiveStep | undefined {
    const { publication, variant } = this.shown(base, arms);
    const { graph, pages } = publication.snapshot;
    const step = graph.steps.find((candidate) => is(candidate, graph));
    const page = step && pages[step.id];
    return page && { publication, step, page, arms, variant };
  }

  private shown(base: Publication, arms: readonly ArmTag[]): { publication: Publication; variant: string } {
    if (arms.length === 0) return { publication: base, variant: '' };
    const { variants } = this.load();
    const name = `${base.id} ${arms.map(({ armId }) => armId).join(' ')}`;
    const known = variants.get(name);
    if (known) return { publication: known, variant: this.keys.get(known) ?? '' };
    const { key, publication } = this.variants.shown(base, arms);
    variants.set(name, publication);
    this.keys.set(publication, key);
    return { publication, variant: key };
  }

  /** What tells a publication apart that some arms changed. */
  private readonly keys = new WeakMap<Publication, string>();

  private load(): Loaded {
    if (this.loaded) return this.loaded;
    const bySlug = new Map<string, Publication>();
    const byStep = new Map<string, Publication>();
    for (const publication of latestPublications(this.services.db)) {
      const { slug, graph, pages } = publication.snapshot;
      bySlug.set(slug, publication);
      for (const arm of this.variants.open(publication)) {
        for (const { id } of this.variants.shown(publication, [arm]).publication.snapshot.graph.steps) byStep.set(id, publication);
      }
      for (const step of graph.steps) if (pages[step.id]) byStep.set(step.id, publication);
    }
    const moved = new Map<string, string>();
    for (const { funnelId, snapshot } of bySlug.values()) {
      for (const { slug, stepId, stepSlug } of formerAddresses(this.services.db, funnelId)) {
        // Where a step is gone, its funnel's beginning is nearer to what was looked for than nothing.
        moved.set(`${slug}/${stepSlug}`, byStep.has(stepId) ? stepId : snapshot.graph.entryId);
        moved.set(slug, snapshot.graph.entryId);
      }
    }
    const offline = new Map<string, OfflinePage>();
    for (const { publication, page } of offlinePublications(this.services.db)) {
      for (const { slug } of formerAddresses(this.services.db, publication.funnelId)) if (!bySlug.has(slug)) offline.set(slug, page);
    }
    this.loaded = { bySlug, byStep, moved, offline, variants: new Map() };
    return this.loaded;
  }
}

/** The public address of a step, below the site's. */
export function stepPath({ publication, step }: { publication: { snapshot: Pick<Publication['snapshot'], 'slug' | 'graph'> }; step: Step }): string {
  const { slug, graph } = publication.snapshot;
  return step.id === graph.entryId ? `/${slug}` : `/${slug}/${step.slug}`;
}

/** The whole public address of a step, by its funnel's own domain if one leads here. */
export function stepAddress(
  services: Pick<Services, 'db' | 'config'>,
  { publication, step }: { publication: { funnelId: string; snapshot: Pick<Publication['snapshot'], 'slug' | 'graph'> }; step: Step },
): string {
  return addressOfStep(services, publication.funnelId, stepPath({ publication, step }), step.id === publication.snapshot.graph.entryId);
}
