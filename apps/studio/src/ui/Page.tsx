import type { ReactNode } from 'react';
import { problemOf } from '../base/api';
import { Button } from './Button';

/** A screen of the studio outside a funnel: a title, actions beside it, and what the place is for. */
export function Page({ title, actions, children, narrow }: { title: string; actions?: ReactNode; children: ReactNode; narrow?: boolean }) {
  return (
    <main id="main" className={`px-6 max-md:px-3 py-5 mx-auto ${narrow ? 'max-w-3xl' : 'max-w-[1160px]'}`}>
      <header className="flex flex-wrap items-center justify-between gap-3 mb-5">
        <h1 className="min-w-0 wrap-anywhere">{title}</h1>
        <div className="flex flex-wrap items-center gap-2">{actions}</div>
      </header>
      {children}
    </main>
  );
}

export function Panel({ title, children, actions }: { title?: string; children: ReactNode; actions?: ReactNode }) {
  return (
    <section className="rounded-md border border-line bg-white p-5 mb-4">
      {title ? (
        <header className="flex items-center justify-between gap-3 mb-3">
          <h2>{title}</h2>
          {actions}
        </header>
      ) : null}
      {children}
    </section>
  );
}

export function Empty({ title, children, action }: { title: string; children: ReactNode; action?: ReactNode }) {
  return (
    <div className="rounded-md border border-dashed border-no bg-white px-6 py-12 text-center">
      <p className="text-lg font-bold mb-1">{title}</p>
      <p className="text-soft max-w-md mx-auto mb-4">{children}</p>
      {action}
    </div>
  );
}

/** What stands in place of a view while it loads, or where it could not be loaded. */
export function Waiting({ error, retry }: { error?: unknown; retry?: () => void }) {
  if (!error) return <p className="p-8 text-soft">Loading</p>;
  return (
    <div className="p-8" role="alert">
      <p className="font-semibold mb-3">{problemOf(error).title}</p>
      {retry ? <Button onClick={retry}>Try again</Button> : null}
    </div>
  );
}

export function Badge({ tone, children }: { tone: 'go' | 'plain' | 'way' | 'care' | 'stop' | 'info' | 'experiment'; children: ReactNode }) {
  const tones = {
    go: 'bg-go-tint text-go',
    plain: 'bg-band text-soft',
    way: 'bg-way-tint text-ink',
    care: 'bg-care-tint text-care',
    experiment: 'bg-experiment-tint text-experiment',
    stop: 'bg-stop-tint text-stop',
    info: 'bg-info-tint text-info',
  };
  return <span className={`inline-block rounded-full px-2.5 py-0.5 text-[0.86rem] leading-snug font-semibold ${tones[tone]}`}>{children}</span>;
}
