import { type Figures, figureOf, MEASURES, type Measure } from '@ruta/core/reports';
import { formatAmount, formatCount, formatRate } from '../base/format';

/** A figure of a row as it is written; a dash where it is unknown. */
export function figureWords(figures: Figures, measure: Measure, currency: string): string {
  const value = figureOf(figures, measure);
  if (value === null) return '–';
  switch (MEASURES[measure].kind) {
    case 'money':
      return formatAmount(value, currency);
    case 'ratio':
      return formatRate(value);
    default:
      return formatCount(value);
  }
}

export interface Change {
  words: string;
  /** Null for neither. */
  isMore: boolean | null;
}

/** How a figure has changed: rates by percentage points, everything else by percent; undefined where there is nothing to compare. */
export function changeOf(now: Figures, before: Figures | undefined, measure: Measure): Change | undefined {
  if (!before) return undefined;
  const [is, was] = [figureOf(now, measure), figureOf(before, measure)];
  if (is === null || was === null || (MEASURES[measure].kind !== 'ratio' && was === 0)) return undefined;
  const change = MEASURES[measure].kind === 'ratio' ? (is - was) * 100 : ((is - was) / Math.abs(was)) * 100;
  const rounded = Math.round(change * 10) / 10;
  const sign = rounded > 0 ? '+' : rounded < 0 ? '−' : '±';
  return {
    words: `${sign}${Math.abs(rounded).toFixed(1)}${MEASURES[measure].kind === 'ratio' ? ' points' : ' %'}`,
    isMore: rounded === 0 ? null : rounded > 0,
  };
}

/** Fewer of these is better. */
const LESS_IS_BETTER: ReadonlySet<Measure> = new Set(['refunded', 'left', 'discount', 'costPerLead', 'costPerSale']);
/** What something costs grows with what is sold: more of it is neither good nor bad by itself. */
const COSTS: ReadonlySet<Measure> = new Set(['cost', 'fees', 'goods', 'commissions', 'clicks']);

/** The colour of a change: for the better, for the worse, or neither. */
export function changeLook({ isMore }: Change, measure: Measure): 'text-go' | 'text-stop' | 'text-soft' {
  if (isMore === null || COSTS.has(measure)) return 'text-soft';
  return isMore === LESS_IS_BETTER.has(measure) ? 'text-stop' : 'text-go';
}
