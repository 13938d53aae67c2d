import type { FunnelDetail } from '@ruta/core/checks';
import { isSharedWay, removeShared, routesFor, type Step, stepKindOf } from '@ruta/core/funnel';
import { FileText, Tag, Trash2, X } from 'lucide-react';
import { OUTCOME_QUESTIONS } from '../funnel/outcomeWords';
import { SharedNotice } from '../funnel/SharedNotice';
import { useMapHand } from '../funnel/useMap';
import { Button, ButtonLink, IconButton } from '../ui/Button';
import { RemoveDialog } from './StopPanel';

interface PanelProps {
  step: Step;
  funnel: FunnelDetail;
  removing: boolean;
  onRemoving: (open: boolean) => void;
  onSelect: (stepId: string | null) => void;
}

/** A stop of the map that another funnel shares: where it is changed, where it leads, and how to be without it. */
export function SharedPanel({ step, funnel, removing, onRemoving, onSelect }: PanelProps) {
  const { graph } = funnel;
  const { change } = useMapHand(graph);
  const nameOf = (id: string) => graph.steps.find((each) => each.id === id)?.name ?? '';
  const sourceId = step.sharedFrom?.funnelId ?? '';
  return (
    <aside
      aria-label={`The stop ${step.name}`}
      className="bg-white border-l border-line min-h-0 min-w-0 overflow-y-auto p-4 grid grid-cols-[minmax(0,1fr)] gap-4 content-start"
    >
      <header className="flex items-center gap-2">
        <p className="text-soft mr-auto">{stepKindOf(step.kind).name}</p>
        <IconButton name="Close" onClick={() => onSelect(null)}>
          <X size={17} />
        </IconButton>
      </header>
      <h2 className="text-[1.1rem] wrap-anywhere">{step.name}</h2>
      <SharedNotice step={step} funnel={funnel} view="offer" />
      <div className="flex flex-wrap gap-2">
        <ButtonLink to={`/funnels/${funnel.id}/page/${step.id}`}>
          <FileText size={15} aria-hidden="true" /> Page
        </ButtonLink>
        <ButtonLink to={`/funnels/${funnel.id}/offer/${step.id}`}>
          <Tag size={15} aria-hidden="true" /> Offer
        </ButtonLink>
      </div>
      <section className="grid gap-2">
        <h2 className="text-[1rem]">Where it leads</h2>
        <ul className="grid gap-1">
          {stepKindOf(step.kind).outcomes.flatMap((outcome) =>
            routesFor(graph, step.id, outcome).map((route) => (
              <li key={route.id}>
                {OUTCOME_QUESTIONS[outcome]} {route.condition ? 'for some ' : ''}to <strong>{nameOf(route.to)}</strong>
                {isSharedWay(graph, route) ? null : <span className="text-soft">, this funnel’s own</span>}
              </li>
            )),
          )}
        </ul>
        <p className="text-soft">Ways between shared offers follow their source. Where they end, the line can lead elsewhere here.</p>
      </section>
      <section className="border-t border-line pt-3">
        <Button look="danger" onClick={() => onRemoving(true)}>
          <Trash2 size={15} aria-hidden="true" /> Remove these offers (Delete)
        </Button>
      </section>
      {removing ? (
        <RemoveDialog
          step={{ name: `the offers of ${funnel.sharing.from[sourceId] ?? 'another funnel'}` }}
          edit={removeShared(graph, sourceId)}
          live={funnel.version > 0}
          onClose={() => onRemoving(false)}
          onRemove={(edit) => {
            change(edit);
            onRemoving(false);
            onSelect(null);
          }}
        />
      ) : null}
    </aside>
  );
}
