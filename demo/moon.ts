const SYNODIC_DAYS = 29.530588;
const DAY_MS = 24 * 60 * 60 * 1000;
/** A new moon: 6 January 2000, 18:14 UTC. */
const NEW_MOON = Date.UTC(2000, 0, 6, 18, 14);

/** Age of the moon as a share of its month: 0 new, 0.25 first quarter, 0.5 full. Right to within a day. */
export function moonPhase(at: number): number {
  const age = ((at - NEW_MOON) / DAY_MS / SYNODIC_DAYS) % 1;
  return age < 0 ? age + 1 : age;
}

/** An SVG path of the lit part of a moon of a radius, around a centre. */
export function litMoon(phase: number, x: number, y: number, radius: number): string {
  const bulge = Math.cos(2 * Math.PI * phase) * radius;
  const waxing = phase < 0.5;
  const outer = waxing ? 1 : 0;
  const inner = bulge > 0 === waxing ? 0 : 1;
  return `M${x} ${y - radius}A${radius} ${radius} 0 0 ${outer} ${x} ${y + radius}A${Math.abs(bulge)} ${radius} 0 0 ${inner} ${x} ${y - radius}Z`;
}
