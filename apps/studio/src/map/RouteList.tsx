import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { arrayMove, SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { FunnelDetail } from '@ruta/core/checks';
import { describe } from '@ruta/core/conditions';
import type { FactNames } from '@ruta/core/facts';
import { connect, type Outcome, otherwise, type Route, reorder, routesFor, type Step, stepKindOf } from '@ruta/core/funnel';
import { GripVertical, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { newId } from '../base/newId';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { OUTCOME_QUESTIONS } from '../funnel/outcomeWords';
import { useMapHand } from '../funnel/useMap';
import { Button, IconButton } from '../ui/Button';

interface ListProps {
  step: Step;
  funnel: FunnelDetail;
  names: FactNames;
  currency: string;
}

/** Where a stop leads, by what is done there: routes with a condition in the order they are tried, and the one for everybody else. */
export function RouteList(props: ListProps) {
  const { step } = props;
  const { outcomes } = stepKindOf(step.kind);
  if (outcomes.length === 0) return <p className="text-soft">This is an end: nothing leads on from here.</p>;
  return (
    <div className="grid gap-5">
      {outcomes.map((outcome) => (
        <OutcomeRoutes key={outcome} {...props} outcome={outcome} />
      ))}
    </div>
  );
}

/** What happens where no route is drawn, in words. */
const UNDRAWN: Record<Outcome, string> = {
  next: 'stay on this page',
  submitted: 'stay on this page',
  paid: 'the first thank-you page',
  accepted: 'the first thank-you page',
  declined: 'as on yes',
  closed: 'where its product says',
};

const undrawn = (outcome: Outcome, step: Step) => (outcome === 'closed' && step.kind === 'offer' ? 'as on no' : UNDRAWN[outcome]);

function OutcomeRoutes({ step, funnel, names, currency, outcome }: ListProps & { outcome: Outcome }) {
  const { graph } = funnel;
  const { change } = useMapHand(graph);
  const routes = routesFor(graph, step.id, outcome);
  const conditional = routes.filter((route) => route.condition !== undefined);
  const rest = otherwise(graph, step.id, outcome);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const order = (ids: string[]) => change(reorder(graph, [...ids, ...(rest ? [rest.id] : [])]));
  const ids = conditional.map((route) => route.id);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) order(arrayMove(ids, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  const targets = graph.steps.filter((candidate) => candidate.id !== step.id);
  const [firstTarget] = targets;
  return (
    <fieldset className="grid gap-2 min-w-0" data-outcome={outcome}>
      <legend className="font-semibold mb-1">{OUTCOME_QUESTIONS[outcome]}</legend>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ol className="grid gap-2">
            {conditional.map((route, index) => (
              <ConditionalRoute
                key={route.id}
                route={route}
                targets={targets}
                names={names}
                currency={currency}
                onMove={(by) => {
                  const to = index + by;
                  if (to >= 0 && to < ids.length) order(arrayMove(ids, index, to));
                }}
                change={(changes) => change({ operations: [{ kind: 'changeRoute', routeId: route.id, changes }] }, `${route.id}`)}
                remove={() => change({ operations: [{ kind: 'removeRoute', routeId: route.id }] })}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <label className="flex items-center gap-2 min-w-0">
        <span className="text-soft shrink-0">{conditional.length > 0 ? 'Otherwise to' : 'Everybody to'}</span>
        <select
          className="rounded-md border border-line bg-white px-2 py-1.5 min-w-0 flex-1 font-semibold"
          value={rest?.to ?? ''}
          onChange={(event) => {
            if (event.target.value) change(connect(graph, step.id, outcome, event.target.value, newId));
            else if (rest) change({ operations: [{ kind: 'removeRoute', routeId: rest.id }] });
          }}
        >
          <option value="">Not drawn: {undrawn(outcome, step)}</option>
          {targets.map((target) => (
            <option key={target.id} value={target.id}>
              {target.name}
            </option>
          ))}
        </select>
      </label>
      {firstTarget ? (
        <p>
          <Button
            look="quiet"
            onClick={() => change(connect(graph, step.id, outcome, rest?.to ?? firstTarget.id, newId, { fact: 'returning', returning: true }))}
          >
            <Plus size={15} aria-hidden="true" /> Route with a condition
          </Button>
        </p>
      ) : null}
    </fieldset>
  );
}

interface RouteProps {
  route: Route;
  targets: Step[];
  names: FactNames;
  currency: string;
  onMove: (by: -1 | 1) => void;
  change: (changes: { to?: string; condition?: Route['condition'] }) => void;
  remove: () => void;
}

function ConditionalRoute({ route, targets, names, currency, onMove, change, remove }: RouteProps) {
  const [open, setOpen] = useState(false);
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: route.id });
  const words = route.condition ? describe(route.condition, names) : '';
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className="rounded-md border border-line bg-white p-2.5 grid gap-2"
      data-route={route.id}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
        event.preventDefault();
        onMove(event.key === 'ArrowUp' ? -1 : 1);
      }}
    >
      <div className="flex items-center gap-2">
        <button type="button" aria-label={`Move the route “${words}” (or Alt ↑↓)`} className="text-soft cursor-grab" {...attributes} {...listeners}>
          <GripVertical size={16} />
        </button>
        <button type="button" aria-expanded={open} onClick={() => setOpen(!open)} className="flex-1 min-w-0 text-left text-experiment font-semibold">
          Whoever {words}
        </button>
        <IconButton name={`Remove the route “${words}”`} onClick={remove}>
          <Trash2 size={16} />
        </IconButton>
      </div>
      <label className="flex items-center gap-2">
        <span className="text-soft shrink-0">then to</span>
        <select
          className="rounded-md border border-line bg-white px-2 py-1 min-w-0 flex-1"
          value={route.to}
          onChange={(event) => change({ to: event.target.value })}
        >
          {targets.map((target) => (
            <option key={target.id} value={target.id}>
              {target.name}
            </option>
          ))}
        </select>
      </label>
      {open ? (
        <ConditionEditor
          label="Who takes this route?"
          value={route.condition ?? null}
          // A route without a condition is the one for everybody else, of which there is one; this one keeps its last.
          onChange={(condition) => condition && change({ condition })}
          names={names}
          currency={currency}
          everybody="Ask something, or remove this route: everybody is led by the one below."
        />
      ) : null}
    </li>
  );
}
