import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import type { Services } from '../base/services';

/** A page as bytes ready to be sent again and again. */
export interface KeptPage {
  html: Buffer;
  gzip: Buffer;
  etag: string;
}

/** How long a page with a price may be kept: a sale that begins or ends shows within this time. */
const KEPT_MS = 30_000;

/** So many pieces are kept at once; the one that was made first goes first. */
const MOST_PIECES = 400;

/** The HTML of pages that are the same for everybody, kept in memory until something visitors see has changed. */
export class KeptPages {
  private readonly pages = new Map<string, { page: KeptPage; until: number }>();
  private readonly pieces = new Map<string, { html: string; until: number }>();

  constructor({ changes }: Pick<Services, 'changes'>) {
    changes.onChange(() => {
      this.pages.clear();
      this.pieces.clear();
    });
  }

  /**
   * The page kept under a key, made anew once it is too old.
   * @param now Unix time in milliseconds
   */
  get(key: string, now: number, make: () => string): KeptPage {
    const known = this.pages.get(key);
    if (known && known.until > now) return known.page;
    const page = compress(make());
    this.pages.set(key, { page, until: now + KEPT_MS });
    return page;
  }

  /**
   * A piece of HTML that many people are shown alike, such as the total of the same cart, or an order form that nobody has
   * typed into yet. The key says all that it is made from; nothing of a person may be in it.
   */
  piece(key: string, now: number, make: () => string): string {
    const known = this.pieces.get(key);
    if (known && known.until > now) return known.html;
    const html = make();
    if (this.pieces.size >= MOST_PIECES) {
      const [eldest] = this.pieces.keys();
      if (eldest !== undefined) this.pieces.delete(eldest);
    }
    this.pieces.delete(key);
    this.pieces.set(key, { html, until: now + KEPT_MS });
    return html;
  }
}

function compress(text: string): KeptPage {
  const html = Buffer.from(text);
  return { html, gzip: gzipSync(html, { level: 9 }), etag: `"${createHash('sha256').update(html).digest('base64url').slice(0, 22)}"` };
}
