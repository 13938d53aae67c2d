import type { FunnelDetail } from '@ruta/core/checks';
import { makeOwn, type Step } from '@ruta/core/funnel';
import { Link2 } from 'lucide-react';
import { Link } from 'react-router';
import { Button, ButtonLink } from '../ui/Button';
import { useMapHand } from './useMap';

interface NoticeProps {
  step: Step;
  funnel: FunnelDetail;
  /** Which view of the source to open. */
  view: 'page' | 'offer';
}

/** Says where a shared stop is changed, and lets it be made the funnel's own; else where one of this funnel's is shown too. */
export function SharedNotice({ step, funnel, view }: NoticeProps) {
  const { change } = useMapHand(funnel.graph);
  const { sharedFrom } = step;
  if (!sharedFrom) return <SharedWith step={step} funnel={funnel} />;
  const name = funnel.sharing.from[sharedFrom.funnelId] ?? 'another funnel';
  return (
    <section aria-label="Shared offers" className="rounded-md border border-line bg-info-tint p-4 grid gap-3 justify-items-start mb-3">
      <p>
        <Link2 size={16} className="inline mr-1.5 -mt-0.5" aria-hidden="true" />
        <strong>Shared from “{name}”.</strong> What is changed and published there changes here too.
      </p>
      <p className="flex flex-wrap gap-2">
        <ButtonLink look="main" to={`/funnels/${sharedFrom.funnelId}/${view}/${sharedFrom.stepId}`}>
          Change it there
        </ButtonLink>
        <Button onClick={() => change(makeOwn(funnel.graph, sharedFrom.funnelId))}>Make it this funnel’s own</Button>
      </p>
    </section>
  );
}

/** In which other funnels a stop of this one is shown. */
export function SharedWith({ step, funnel }: Pick<NoticeProps, 'step' | 'funnel'>) {
  const users = funnel.sharing.with[step.id] ?? [];
  if (users.length === 0) return null;
  return (
    <p className="rounded-md border border-line bg-info-tint px-3 py-2 mb-3">
      <Link2 size={16} className="inline mr-1.5 -mt-0.5" aria-hidden="true" />
      Shown in{' '}
      {users.map(({ id, name }, index) => (
        <span key={id}>
          {index > 0 ? ', ' : ''}
          <Link to={`/funnels/${id}/map`} className="underline">
            {name}
          </Link>
        </span>
      ))}{' '}
      too: what you publish here changes there.
    </p>
  );
}
