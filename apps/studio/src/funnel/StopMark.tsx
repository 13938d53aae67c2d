import type { StepKind } from '@ruta/core/funnel';

/** A stop on a line: pages are circles, stops that take money squares, the end a ringed circle. */
export function StopMark({ kind, current, size }: { kind: StepKind; current: boolean; size: number }) {
  const fill = current ? '#F4C20D' : '#FFFFFF';
  const common = { fill, stroke: '#10262B', strokeWidth: 3 };
  return (
    <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true" className="relative z-10 shrink-0">
      {kind === 'checkout' || kind === 'offer' ? (
        <rect x="3" y="3" width="18" height="18" rx="4" {...common} />
      ) : (
        <circle cx="12" cy="12" r="9.5" {...common} />
      )}
      {kind === 'thank-you' ? <circle cx="12" cy="12" r="4" fill="#10262B" /> : null}
    </svg>
  );
}
