import { ALPHA } from './levels';

/** A difference that was seen, with the variance of its estimate. */
export interface Estimate {
  difference: number;
  variance: number;
}

/**
 * A p-value that holds however often it is looked at: mixture sequential probability ratio test with a normal mixing
 * distribution of variance τ² (Robbins 1970; Johari, Pekelis, Walsh 2015). With V the variance of the estimate,
 * `Λ = √(V ÷ (V + τ²)) exp(τ² δ² ÷ (2 V (V + τ²)))` and `p = min(1, 1 ÷ Λ)`.
 * @param tau the planned difference, in the unit of the estimate
 * @param before what it was at earlier looks: it never rises again
 */
export function alwaysValid({ difference, variance }: Estimate, tau: number, before = 1): number {
  if (variance <= 0) return before;
  const mixed = variance + tau ** 2;
  const logRatio = 0.5 * Math.log(variance / mixed) + (tau ** 2 * difference ** 2) / (2 * variance * mixed);
  return Math.min(before, Math.exp(-Math.max(0, logRatio)));
}

/**
 * Between which differences the true one lies, at every look at once: the differences that the test above would not refuse,
 * `δ ± √(V (V + τ²) ÷ τ² · (ln((V + τ²) ÷ V) + 2 ln(1 ÷ α)))`.
 */
export function alwaysValidInterval({ difference, variance }: Estimate, tau: number, alpha = ALPHA): [number, number] | null {
  if (variance <= 0) return null;
  const mixed = variance + tau ** 2;
  const half = Math.sqrt(((variance * mixed) / tau ** 2) * (Math.log(mixed / variance) + 2 * Math.log(1 / alpha)));
  return [difference - half, difference + half];
}
