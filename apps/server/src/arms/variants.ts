import { evaluate } from '@ruta/core/conditions';
import { type ArmTag, assignArm, variantOf } from '@ruta/core/experiments';
import type { Services } from '../base/services';
import type { Variants, Who } from '../funnel/live';
import type { Publication } from '../funnel/store';
import { firstArm, type RoundRow, roundsSince } from './store';
import type { RoundArm } from './tables';

/** A page of an arm may still be open in a browser so long after its round has ended: what is sent from it is understood. */
const OPEN_MS = 24 * 60 * 60 * 1000;

interface Loaded {
  running: Map<string, RoundRow[]>;
  /** Every arm that changes something and that somebody may have before them, by the funnel. */
  open: Map<string, RoundArm[]>;
  armOf: Map<string, RoundArm>;
}

/**
 * Which arms of running tests a visitor is shown: read once until a test begins, ends, or something is published. An arm
 * that cannot be shown as things are is shown to nobody: its whole test rests, and everybody sees the original.
 */
export class RunningTests implements Variants {
  private loaded: Loaded | null = null;
  private readonly broken = new Map<string, string>();

  constructor(private readonly services: Pick<Services, 'db' | 'clock' | 'changes' | 'log'>) {
    services.changes.onChange(() => {
      this.loaded = null;
      this.broken.clear();
    });
  }

  isTested(funnelId: string): boolean {
    return this.load().running.has(funnelId);
  }

  choose(publication: Publication, { visitorId, arms = null, facts }: Who): ArmTag[] {
    return this.running(publication).flatMap((round): ArmTag[] => {
      const kept = arms?.find(({ roundId }) => roundId === round.id);
      if (kept) return [kept];
      if (visitorId === null) return [];
      const { audience } = round.terms;
      // Whoever was in a test stays in it, whatever becomes known of them later.
      const isIn = audience === null || firstArm(this.services.db, round.id, visitorId) !== undefined || evaluate(audience, facts());
      return isIn ? [{ roundId: round.id, armId: assignArm(visitorId, round.experimentId, round.arms).id }] : [];
    });
  }

  shown(publication: Publication, tags: readonly ArmTag[]): { key: string; publication: Publication } {
    const changing = tags.flatMap(({ armId }) => this.load().armOf.get(armId) ?? []).filter(changesSomething);
    let { snapshot } = publication;
    for (const arm of changing) snapshot = this.asIn(snapshot, arm) ?? snapshot;
    return { key: changing.map(({ id }) => id).join(' '), publication: changing.length === 0 ? publication : { ...publication, snapshot } };
  }

  open(publication: Publication): ArmTag[] {
    return (this.load().open.get(publication.funnelId) ?? []).map(({ id }) => ({ roundId: '', armId: id }));
  }

  /** Why a round shows nobody its arms; undefined while it does. */
  whyBroken(publication: Publication, round: RoundRow): string | undefined {
    this.running(publication);
    return this.broken.get(round.id);
  }

  /** The rounds of a funnel whose every arm can be shown on what is published. */
  private running(publication: Publication): RoundRow[] {
    return (this.load().running.get(publication.funnelId) ?? []).filter((round) => {
      const key = `${publication.id} ${round.id}`;
      if (!this.broken.has(key)) {
        const why = round.arms.map((arm) => this.problemOf(publication.snapshot, arm)).find(Boolean);
        this.broken.set(key, why ?? '');
        if (why) this.broken.set(round.id, why);
      }
      return this.broken.get(key) === '';
    });
  }

  private problemOf(snapshot: Publication['snapshot'], arm: RoundArm): string | undefined {
    try {
      variantOf(snapshot, arm.changes);
      return undefined;
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    }
  }

  /** Undefined where two tests do not go together after all; then the later one's visitors see what the earlier one shows. */
  private asIn(snapshot: Publication['snapshot'], arm: RoundArm): Publication['snapshot'] | undefined {
    try {
      return variantOf(snapshot, arm.changes);
    } catch (error) {
      this.services.log.warn({ err: error, arm: arm.id }, 'an arm could not be shown');
      return undefined;
    }
  }

  private load(): Loaded {
    if (this.loaded) return this.loaded;
    const rows = roundsSince(this.services.db, this.services.clock.now() - OPEN_MS);
    const running = new Map<string, RoundRow[]>();
    for (const row of rows) if (row.endedAt === null) running.set(row.funnelId, [...(running.get(row.funnelId) ?? []), row]);
    const all = rows.flatMap(({ funnelId, arms }) => arms.map((arm) => ({ funnelId, arm })));
    const open = new Map<string, RoundArm[]>();
    for (const { funnelId, arm } of all) if (changesSomething(arm)) open.set(funnelId, [...(open.get(funnelId) ?? []), arm]);
    this.loaded = { running, open, armOf: new Map(all.map(({ arm }) => [arm.id, arm])) };
    return this.loaded;
  }
}

const changesSomething = ({ changes }: RoundArm) => changes.graph.length > 0 || Object.keys(changes.pages).length > 0;
