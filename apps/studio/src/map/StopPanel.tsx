import type { FunnelDetail } from '@ruta/core/checks';
import type { FactNames } from '@ruta/core/facts';
import { duplicateAfter, freeStepSlug, type MapEdit, makeEnd, moveTo, removeHealed, type Step, type StepKind, slugify, stepKindOf } from '@ruta/core/funnel';
import { CopyPlus, FileText, Flag, LogIn, Move, Tag, Trash2, X } from 'lucide-react';
import { useState } from 'react';
import { newId } from '../base/newId';
import { SharedWith } from '../funnel/SharedNotice';
import { useMapHand } from '../funnel/useMap';
import { Button, ButtonLink, IconButton } from '../ui/Button';
import { SelectField, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { AddStop } from './AddStop';
import { RouteList } from './RouteList';
import { copyOf } from './stops';

interface PanelProps {
  step: Step;
  funnel: FunnelDetail;
  names: FactNames;
  currency: string;
  /** The removal that is being asked about. */
  removing: boolean;
  adding: boolean;
  onRemoving: (open: boolean) => void;
  onAdding: (open: boolean) => void;
  onAdd: (kind: StepKind) => void;
  /** Puts a step before the first of the funnel. */
  onAddFirst: (kind: StepKind) => void;
  onSelect: (stepId: string | null) => void;
}

/** The stop that is chosen on the map: its name, what can be done with it, and where it leads. */
export function StopPanel(props: PanelProps) {
  const { step, funnel, names, currency, onSelect } = props;
  const { graph } = funnel;
  const { change } = useMapHand(graph);
  const [moving, setMoving] = useState(false);
  const rename = (name: string) => {
    if (name.trim() === '') return;
    // An address that still is that of the name follows it, until the stop is published under it.
    const follows = step.slug === slugify(step.name) && funnel.version === 0;
    const slug = follows ? freeStepSlug({ steps: graph.steps.filter(({ id }) => id !== step.id) }, slugify(name) || step.slug) : step.slug;
    change({ operations: [{ kind: 'changeStep', stepId: step.id, changes: { name: name.slice(0, 80), slug } }] }, `${step.id} name`);
  };
  const { outcomes, name: kindName } = stepKindOf(step.kind);
  const [goal] = outcomes;
  return (
    <aside
      aria-label={`The stop ${step.name}`}
      className="bg-white border-l border-line min-h-0 min-w-0 overflow-y-auto p-4 grid grid-cols-[minmax(0,1fr)] gap-4 content-start"
    >
      <header className="flex items-center gap-2">
        <p className="text-soft mr-auto">{kindName}</p>
        <IconButton name="Close" onClick={() => onSelect(null)}>
          <X size={17} />
        </IconButton>
      </header>
      <NameField key={step.id} name={step.name} onName={rename} />
      <div className="flex flex-wrap gap-2">
        <ButtonLink to={`/funnels/${funnel.id}/page/${step.id}`}>
          <FileText size={15} aria-hidden="true" /> Page
        </ButtonLink>
        <ButtonLink to={`/funnels/${funnel.id}/offer/${step.id}`}>
          <Tag size={15} aria-hidden="true" /> Offer
        </ButtonLink>
        {goal ? <AddStop words="Stop behind it" place={`behind “${step.name}”`} onAdd={props.onAdd} open={props.adding} onOpenChange={props.onAdding} /> : null}
        {step.id === graph.entryId ? <AddStop words="Step before it" place={`before “${step.name}”`} onAdd={props.onAddFirst} /> : null}
      </div>
      <SharedWith step={step} funnel={funnel} />
      <section className="grid gap-2 min-w-0">
        <h2 className="text-[1rem]">Where it leads</h2>
        <RouteList step={step} funnel={funnel} names={names} currency={currency} />
      </section>
      <section className="grid gap-1.5 justify-items-start border-t border-line pt-3">
        <Button
          look="quiet"
          onClick={() => {
            const copy = copyOf(graph, step);
            change({ ...duplicateAfter(graph, step.id, copy, newId), copies: { [copy.id]: step.id } });
            onSelect(copy.id);
          }}
        >
          <CopyPlus size={15} aria-hidden="true" /> Duplicate (Ctrl D)
        </Button>
        <Button look="quiet" onClick={() => setMoving(true)}>
          <Move size={15} aria-hidden="true" /> Move to another line
        </Button>
        {step.id === graph.entryId ? null : (
          <Button look="quiet" onClick={() => change({ operations: [{ kind: 'setEntry', stepId: step.id }] })}>
            <LogIn size={15} aria-hidden="true" /> Let visitors arrive here
          </Button>
        )}
        {graph.routes.some((route) => route.from === step.id) ? (
          <Button look="quiet" onClick={() => change(makeEnd(graph, step.id))}>
            <Flag size={15} aria-hidden="true" /> Make it an end
          </Button>
        ) : null}
        <Button look="danger" onClick={() => props.onRemoving(true)}>
          <Trash2 size={15} aria-hidden="true" /> Remove (Delete)
        </Button>
      </section>
      {moving ? (
        <MoveDialog
          step={step}
          funnel={funnel}
          onClose={() => setMoving(false)}
          onMove={(edit) => {
            change(edit);
            setMoving(false);
          }}
        />
      ) : null}
      {props.removing ? (
        <RemoveDialog
          step={step}
          edit={removeHealed(graph, step.id)}
          live={funnel.version > 0}
          onClose={() => props.onRemoving(false)}
          onRemove={(edit) => {
            change(edit);
            props.onRemoving(false);
            onSelect(null);
          }}
        />
      ) : null}
    </aside>
  );
}

/** A name as it is typed; an empty one is said and changes nothing. */
function NameField({ name, onName }: { name: string; onName: (name: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? name;
  return (
    <TextField
      label="Name"
      value={text}
      maxLength={80}
      error={text.trim() === '' ? 'Give the stop a name.' : undefined}
      onChange={(event) => {
        setTyped(event.target.value.trim() === '' ? event.target.value : null);
        onName(event.target.value);
      }}
    />
  );
}

function MoveDialog({ step, funnel, onClose, onMove }: { step: Step; funnel: FunnelDetail; onClose: () => void; onMove: (edit: MapEdit) => void }) {
  const { graph } = funnel;
  const lines = graph.routes.filter((route) => route.from !== step.id && route.to !== step.id);
  const [routeId, setRouteId] = useState(lines[0]?.id ?? '');
  const nameOf = (id: string) => graph.steps.find((candidate) => candidate.id === id)?.name ?? '';
  const edit = moveTo(graph, step.id, routeId, newId);
  return (
    <Modal open onClose={onClose} title={`Move “${step.name}”`}>
      {lines.length === 0 ? (
        <p>There is no other line to move it to.</p>
      ) : (
        <div className="grid gap-4">
          <SelectField label="To the line" value={routeId} onChange={(event) => setRouteId(event.target.value)}>
            {lines.map((route) => (
              <option key={route.id} value={route.id}>
                from “{nameOf(route.from)}” to “{nameOf(route.to)}”
              </option>
            ))}
          </SelectField>
          <Consequences edit={edit} />
          <Button look="main" disabled={edit.operations.length === 0} onClick={() => onMove(edit)}>
            Move it
          </Button>
        </div>
      )}
    </Modal>
  );
}

/** Asks before something is taken off the map, with what happens by it. */
export function RemoveDialog(props: { step: Pick<Step, 'name'>; edit: MapEdit; live: boolean; onClose: () => void; onRemove: (edit: MapEdit) => void }) {
  const { step, edit, live } = props;
  const isLast = edit.operations.length === 0;
  return (
    <Modal open onClose={props.onClose} title={`Remove “${step.name}”?`} returnsFocus={false}>
      <div className="grid gap-4">
        <Consequences edit={edit} />
        {isLast ? null : (
          <p className="text-soft">
            {live ? 'Visitors see it until you publish; who stands on it then is led on. ' : ''}Its page is kept: undo brings it back as it is.
          </p>
        )}
        {isLast ? null : (
          <Button look="danger" onClick={() => props.onRemove(edit)}>
            Remove it
          </Button>
        )}
      </div>
    </Modal>
  );
}

function Consequences({ edit }: { edit: MapEdit }) {
  if (edit.consequences.length === 0) return null;
  return (
    <ul className="list-disc pl-5 grid gap-1">
      {edit.consequences.map((words) => (
        <li key={words}>{words}</li>
      ))}
    </ul>
  );
}
