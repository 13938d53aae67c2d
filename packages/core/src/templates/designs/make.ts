import { askingFor, selling, thanking } from './arrange';
import type { DesignWords, FunnelDesign } from './design';

interface Sketch extends Omit<FunnelDesign, 'pages'> {
  how: Parameters<typeof selling>[2];
  /** What stands on the button that sends an address. */
  asks?: string;
  said: DesignWords;
}

/** A design with every page of its shape. */
export function makeDesign({ how, asks = 'Send it to me', said, ...design }: Sketch): FunnelDesign {
  const asking = askingFor(said, design.drawings[1], asks, how.opening === 'dark' ? 'dark' : 'tint');
  return {
    ...design,
    pages: { sales: selling(said, design.drawings, how), 'opt-in': asking, registration: asking, 'thank-you': thanking(said, design.drawings[2]) },
  };
}
