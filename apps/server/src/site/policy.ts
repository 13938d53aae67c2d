import { isElementOf } from '@ruta/core/elements';
import type { StepKind } from '@ruta/core/funnel';
import { allElements } from '@ruta/core/page';
import { askedCategories, type JoinedCode, joinCode } from '@ruta/core/shop';
import type { Config } from '../base/config';
import type { Services } from '../base/services';
import { pixelsOn } from '../conversions/pixels';
import type { LiveStep } from '../funnel/live';
import { loadShop } from '../shop/store';
import { scriptUrl } from './scripts';

interface Allowed {
  /** Frames and media of other hosts, for videos that are played on the page. */
  players: boolean;
  /** Pictures of other hosts, in own HTML. */
  pictures: boolean;
  /** Forms that lead to other hosts once they are sent. */
  formsLeadOut: boolean;
  /** Frames on any other site. What is shown there knows nobody: a browser keeps its cookies back, or apart for each site around it. */
  framed: boolean;
  /** Whatever the seller's own code asks for. */
  ownCode: boolean;
}

/** A checkout, and whatever may follow it on its way. Pages that people arrive at are shown in no other site's frame. */
const FRAMED: ReadonlySet<StepKind> = new Set<StepKind>(['checkout', 'offer', 'thank-you', 'confirmation', 'closed', 'waiting-list']);

const NOTHING: Allowed = { players: false, pictures: false, formsLeadOut: false, framed: false, ownCode: false };

/** What public pages may load, from where: by itself only what is the shop's own. */
export function sitePolicy({ standinsUrl }: Pick<Config, 'standinsUrl'>, allowed: Partial<Allowed> = {}): string {
  const { players, pictures, formsLeadOut, framed, ownCode } = { ...NOTHING, ...allowed };
  const own = ["'self'", ...(standinsUrl ? [standinsUrl] : [])].join(' ');
  const wide = ownCode ? ' https:' : '';
  return [
    `default-src 'self'${wide}`,
    ...(ownCode ? [`script-src 'self' 'unsafe-inline' https:${standinsUrl ? ` ${standinsUrl}` : ''}`, `connect-src ${own} https:`] : []),
    `style-src 'self' 'unsafe-inline'${wide}`,
    // A pixel tells its platform by asking for a picture.
    `img-src 'self' data:${pictures || ownCode ? ' https:' : ''}${ownCode && standinsUrl ? ` ${standinsUrl}` : ''}`,
    `media-src 'self'${players || ownCode ? ' https:' : ''}`,
    `frame-src ${own}${players || ownCode ? ' https:' : ''}`,
    // Browsers hold where a form is led on to against this as well.
    `form-action ${own}${formsLeadOut ? ' https: http:' : wide}`,
    "base-uri 'none'",
    "object-src 'none'",
    framed ? 'frame-ancestors *' : "frame-ancestors 'self'",
  ].join('; ');
}

/** The code on one page that is not Ruta's: pixels, and the seller's own of the shop, the funnel and the page together. */
export function codeOn(services: Pick<Services, 'db' | 'clock' | 'config'>, { publication, page }: LiveStep): JoinedCode[] {
  const { code, consent } = loadShop(services.db).settings;
  const pixels = pixelsOn(services, publication.funnelId, scriptUrl(services.config, 'pixel'));
  return joinCode(askedCategories(consent).length > 0, pixels, code, publication.snapshot.code, page.code);
}

/** What one page may load: more only where it shows videos of other hosts, or runs the seller's own code. */
export function pagePolicy(services: Pick<Services, 'db' | 'clock' | 'config'>, live: LiveStep): string {
  const players = allElements(live.page).some((element) => element.type === 'video' && element.source?.kind === 'address');
  const formsLeadOut = allElements(live.page).some((element) => isElementOf(element, 'form') && element.after?.kind === 'address');
  return sitePolicy(services.config, {
    players,
    formsLeadOut,
    framed: FRAMED.has(live.step.kind),
    pictures: allElements(live.page).some(({ type }) => type === 'html'),
    ownCode: codeOn(services, live).length > 0,
  });
}
