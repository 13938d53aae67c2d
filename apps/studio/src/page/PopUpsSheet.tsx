import { type Operation, type PageDocument, POP_UP_OFTEN, type PopUp, PopUpSchema, type PopUpTrigger, removePopUp } from '@ruta/core/page';
import { buildSection, popUpSection } from '@ruta/core/sections';
import { Plus, Trash2 } from 'lucide-react';
import { newId } from '../base/newId';
import { Button } from '../ui/Button';
import { TextField } from '../ui/Field';
import { Choice } from './elements/Choice';

const TRIGGERS: Record<PopUpTrigger['kind'], string> = {
  seconds: 'After some seconds',
  scroll: 'When so much is read',
  leaving: 'When somebody is about to leave',
  click: 'Only by a button',
};

const firstOf: Record<PopUpTrigger['kind'], PopUpTrigger> = {
  seconds: { kind: 'seconds', seconds: 20 },
  scroll: { kind: 'scroll', percent: 50 },
  leaving: { kind: 'leaving' },
  click: { kind: 'click' },
};

/** The page's pop-ups: what opens each and how often. What they show is edited below the page, like every section. */
export function PopUpsSheet({ page, apply }: { page: PageDocument; apply: (operation: Operation) => void }) {
  const popUps = page.popUps ?? [];
  const change = (id: string, changes: Partial<PopUp>) =>
    apply({ kind: 'changeSettings', changes: { popUps: popUps.map((popUp) => (popUp.id === id ? { ...popUp, ...changes } : popUp)) } });
  const add = () => {
    const id = newId('popUp');
    const popUp: PopUp = { id, name: `Pop-up ${popUps.length + 1}`, trigger: firstOf.leaving, often: 'week', width: 'normal' };
    const section = { ...buildSection(popUpSection(), newId), popUpId: id };
    apply({
      kind: 'several',
      operations: [
        { kind: 'changeSettings', changes: { popUps: [...popUps, popUp] } },
        { kind: 'insertSection', index: page.sections.length, section },
      ],
    });
  };
  return (
    <section className="grid gap-3 border-t border-line pt-4">
      <h2>Pop-ups</h2>
      {popUps.map((popUp) => {
        const problem = PopUpSchema.safeParse(popUp).error?.issues[0];
        const { trigger } = popUp;
        return (
          <div key={popUp.id} className="rounded-md border border-line p-3 grid gap-2">
            <TextField
              label="Name"
              hint="Read to people who cannot see it."
              value={popUp.name}
              maxLength={60}
              error={problem?.path[0] === 'name' ? problem.message : undefined}
              onChange={(event) => change(popUp.id, { name: event.target.value })}
            />
            <Choice label="Opens" value={trigger.kind} choices={TRIGGERS} onChange={(kind) => change(popUp.id, { trigger: firstOf[kind] })} />
            {trigger.kind === 'seconds' ? (
              <TextField
                label="Seconds"
                type="number"
                min={1}
                max={600}
                value={trigger.seconds}
                error={problem?.path[0] === 'trigger' ? problem.message : undefined}
                onChange={(event) => change(popUp.id, { trigger: { kind: 'seconds', seconds: Math.round(Number(event.target.value)) } })}
              />
            ) : null}
            {trigger.kind === 'scroll' ? (
              <TextField
                label="Per cent of the page"
                type="number"
                min={1}
                max={100}
                value={trigger.percent}
                error={problem?.path[0] === 'trigger' ? 'Enter a number from 1 to 100.' : undefined}
                onChange={(event) => change(popUp.id, { trigger: { kind: 'scroll', percent: Math.round(Number(event.target.value)) } })}
              />
            ) : null}
            {trigger.kind === 'click' ? (
              <p className="text-soft">Choose it under “Leads to” of a button or picture.</p>
            ) : (
              <Choice label="How often by itself" value={popUp.often} choices={POP_UP_OFTEN} onChange={(often) => change(popUp.id, { often })} />
            )}
            <Choice
              label="Width"
              value={popUp.width}
              choices={{ narrow: 'Narrow', normal: 'Normal', wide: 'Wide' }}
              onChange={(width) => change(popUp.id, { width })}
            />
            <Button look="quiet" onClick={() => apply(removePopUp(page, popUp.id))}>
              <Trash2 size={15} aria-hidden="true" /> Remove it
            </Button>
          </div>
        );
      })}
      <Button disabled={popUps.length >= 12} onClick={add}>
        <Plus size={15} aria-hidden="true" /> Add a pop-up
      </Button>
      {popUps.length > 0 ? (
        <p className="text-soft">What they show stands below the page and is edited there. A pop-up never covers a form that is being filled in.</p>
      ) : null}
    </section>
  );
}
