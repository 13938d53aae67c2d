const WIDTH = 150;
const HEIGHT = 18;
const MIDDLE = HEIGHT / 2;

/** An estimate with the interval it lies in, on the scale of all arms. What it shows stands in figures beside it. */
export function IntervalBar({
  value,
  interval,
  scale,
  isAhead,
}: {
  value: number;
  interval: readonly [number, number];
  scale: readonly [number, number];
  isAhead: boolean;
}) {
  const [from, to] = scale;
  const x = (at: number) => (to === from ? WIDTH / 2 : 4 + ((Math.min(to, Math.max(from, at)) - from) / (to - from)) * (WIDTH - 8));
  const colour = isAhead ? '#0B6B4F' : '#10262B';
  return (
    <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true" className="shrink-0">
      <line x1={0} x2={WIDTH} y1={MIDDLE} y2={MIDDLE} stroke="#D5DCD7" strokeWidth={1} />
      <line x1={x(interval[0])} x2={x(interval[1])} y1={MIDDLE} y2={MIDDLE} stroke={colour} strokeWidth={5} strokeLinecap="round" opacity={0.35} />
      <circle cx={x(value)} cy={MIDDLE} r={5} fill={colour} />
    </svg>
  );
}

/** A scale on which all intervals have room. */
export function scaleOf(intervals: ReadonlyArray<readonly [number, number]>): [number, number] {
  return [Math.min(...intervals.map(([from]) => from)), Math.max(...intervals.map(([, to]) => to))];
}
