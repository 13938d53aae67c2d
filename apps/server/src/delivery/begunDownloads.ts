/** For so long the pieces that a browser asks for one by one are of the same download. */
const KEPT_MS = 6 * 60 * 60 * 1000;
const MOST = 20_000;

/**
 * Who has begun to fetch which file: players and browsers that resume ask for it in many pieces, and it is one download all the
 * same. In memory only; what a restart forgets is counted once more.
 */
export class BegunDownloads {
  private readonly until = new Map<string, number>();

  note(grantId: string, person: string, now: number): void {
    const key = `${grantId} ${person}`;
    this.until.delete(key);
    this.until.set(key, now + KEPT_MS);
    // The oldest come first: a map keeps the order in which its keys were set.
    for (const [oldest, until] of this.until) {
      if (this.until.size <= MOST && until > now) break;
      this.until.delete(oldest);
    }
  }

  has(grantId: string, person: string, now: number): boolean {
    return (this.until.get(`${grantId} ${person}`) ?? 0) > now;
  }
}
