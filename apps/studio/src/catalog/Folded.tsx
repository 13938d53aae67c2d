import { ChevronDown, ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';

/** A part of a long form that opens where it is wanted; what is in it is part of the form all the same. */
export function Folded({
  title,
  summary,
  open,
  onToggle,
  children,
}: {
  title: string;
  summary: string;
  open: boolean;
  onToggle: () => void;
  children: ReactNode;
}) {
  const Mark = open ? ChevronDown : ChevronRight;
  return (
    <>
      <button type="button" aria-expanded={open} className="w-full flex items-center gap-2 text-left min-h-9 min-w-0" onClick={onToggle}>
        <Mark size={16} aria-hidden="true" className="flex-none" />
        <strong className="truncate" dir="auto">
          {title}
        </strong>
        {open ? null : <span className="text-soft truncate figures">{summary}</span>}
      </button>
      <div className={open ? 'mt-3' : 'hidden'}>{children}</div>
    </>
  );
}
