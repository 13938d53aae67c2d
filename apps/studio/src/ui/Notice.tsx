import { Info, OctagonAlert, TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';

const LOOKS = {
  care: { box: 'bg-care-tint border-care', sign: <TriangleAlert size={18} className="shrink-0 mt-0.5 text-care" aria-hidden="true" /> },
  info: { box: 'bg-info-tint border-info', sign: <Info size={18} className="shrink-0 mt-0.5 text-info" aria-hidden="true" /> },
  stop: { box: 'bg-stop-tint border-stop', sign: <OctagonAlert size={18} className="shrink-0 mt-0.5 text-stop" aria-hidden="true" /> },
} as const;

interface NoticeProps {
  /** What it is: something to take care of, something to know, or something that keeps from going on. */
  tone: keyof typeof LOOKS;
  /** Whether it goes from edge to edge, above what it is about. */
  isBar?: boolean;
  /** `alert` is read out at once, `status` when there is time. */
  role?: 'alert' | 'status' | 'note';
  /** What can be done about it. */
  actions?: ReactNode;
  className?: string;
  children: ReactNode;
}

/** Words that stand out, each kind with a sign and a colour of its own; yellow is none of them, since it says where one is. */
export function Notice({ tone, isBar, role, actions, className = '', children }: NoticeProps) {
  const { box, sign } = LOOKS[tone];
  return (
    <div
      role={role}
      className={`flex flex-wrap items-center gap-x-3 gap-y-2 ${box} ${isBar ? 'border-b px-5 py-2.5' : 'rounded-md border-l-3 px-3 py-2'} ${className}`}
    >
      <div className="flex gap-2.5 flex-1 min-w-[min(100%,18rem)] wrap-anywhere">
        {sign}
        <div className="min-w-0">{children}</div>
      </div>
      {actions}
    </div>
  );
}
