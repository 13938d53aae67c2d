import { type Condition, describe } from '@ruta/core/conditions';
import type { FactNames } from '@ruta/core/facts';
import { Plus, Trash2 } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { Button, IconButton } from '../ui/Button';
import { conditionsApi } from './api';
import { changePart, conditionOf, type Draft, emptyGroup, type Group, groupOf, isWholeTest, partId } from './draft';
import { ALL_FACTS, FACT_NAMES, type FactName, newTest } from './newTest';
import { TestFields } from './TestFields';

interface EditorProps {
  /** What is decided by it: `Who sees this bump?` */
  label: string;
  value: Condition | null;
  onChange: (condition: Condition | null) => void;
  names: FactNames;
  currency: string;
  /** What an empty condition means. */
  everybody?: string;
  /** What can be asked here; everything without it. */
  facts?: readonly FactName[];
  /** Says how many it holds for, in place of how many of the latest buyers. */
  counted?: (condition: Condition) => ReactNode;
}

/**
 * The one editor of conditions: questions in groups of all, any or none, in plain words as they are put together. What is
 * not whole yet stays in the editor and decides nothing.
 */
export function ConditionEditor({ label, value, onChange, names, currency, everybody = 'Everybody', facts = ALL_FACTS, counted }: EditorProps) {
  const [draft, setDraft] = useState({ group: groupOf(value), of: JSON.stringify(value) });
  // Changed elsewhere, by undo or another window: the editor follows.
  const group = draft.of === JSON.stringify(value) ? draft.group : groupOf(value);
  const condition = conditionOf(group);
  const change = (next: Group) => {
    const whole = conditionOf(next);
    setDraft({ group: next, of: JSON.stringify(whole === undefined ? value : whole) });
    if (whole !== undefined && JSON.stringify(whole) !== JSON.stringify(value)) onChange(whole);
  };
  return (
    <fieldset className="grid gap-2" aria-label={label}>
      <p className="rounded-md bg-experiment-tint text-experiment px-3 py-2" data-condition-words="">
        {condition === undefined ? (
          'Something is missing still; it counts once it is whole.'
        ) : condition === null ? (
          everybody
        ) : (
          <>
            Whoever <strong>{describe(condition, names)}</strong>
          </>
        )}
      </p>
      {condition ? (counted?.(condition) ?? <Matches condition={condition} />) : null}
      <GroupFields facts={facts} group={group} change={change} currency={currency} isRoot />
    </fieldset>
  );
}

/** How many of the latest buyers it would have held for. */
function Matches({ condition }: { condition: Condition }) {
  const { data, isFetching } = conditionsApi.useMatchesQuery(condition);
  if (!data) return <p className="text-soft">{isFetching ? 'Counting how many buyers it holds for.' : ''}</p>;
  if (data.buyers === 0) return <p className="text-soft">Nobody has bought in the last 90 days, so that it cannot be tried on anybody.</p>;
  return (
    <p className="text-soft figures" data-matches={data.matched}>
      Held for {data.matched} of the {data.capped ? 'last ' : ''}
      {data.buyers} buyers of the last 90 days{data.unknown > 0 ? `; of ${data.unknown} too little is known` : ''}.
    </p>
  );
}

interface GroupProps {
  group: Group;
  change: (group: Group) => void;
  currency: string;
  facts: readonly FactName[];
  isRoot?: boolean;
  remove?: () => void;
}

function GroupFields(props: GroupProps) {
  const { group, change, currency, facts, isRoot = false } = props;
  const addTest = (fact: FactName) => change({ ...group, parts: [...group.parts, { kind: 'test', id: partId(), test: newTest(fact) }] });
  const set = (id: string, next: Draft | null) => change(changePart(group, id, () => next));
  return (
    <div className={isRoot ? 'grid gap-2' : 'grid gap-2 border-l-3 border-experiment pl-3'}>
      {group.parts.length > 1 || !isRoot || group.of === 'none' ? (
        <div className="flex items-center gap-2">
          <select
            aria-label="How the questions go together"
            value={group.of}
            className="rounded-md border border-line bg-white px-2 py-1 font-semibold"
            onChange={(event) => change({ ...group, of: event.target.value as Group['of'] })}
          >
            <option value="all">All of these hold</option>
            <option value="any">Any of these holds</option>
            <option value="none">None of these holds</option>
          </select>
          {props.remove ? (
            <IconButton name="Remove this group" onClick={props.remove}>
              <Trash2 size={16} />
            </IconButton>
          ) : null}
        </div>
      ) : null}
      {group.parts.map((part) =>
        part.kind === 'group' ? (
          <GroupFields key={part.id} facts={facts} group={part} currency={currency} change={(next) => set(part.id, next)} remove={() => set(part.id, null)} />
        ) : (
          <div key={part.id} className="rounded-md border border-line bg-white p-2.5 grid gap-2" data-question={part.test.fact}>
            <div className="flex items-center gap-2">
              <select
                aria-label="What is asked"
                value={part.test.fact}
                className="rounded-md border border-line bg-white px-2 py-1 font-semibold min-w-0 flex-1"
                onChange={(event) => set(part.id, { ...part, test: newTest(event.target.value as FactName) })}
              >
                {[...new Set([...facts, part.test.fact])].map((fact) => (
                  <option key={fact} value={fact}>
                    {FACT_NAMES[fact]}
                  </option>
                ))}
              </select>
              <IconButton name={`Remove “${FACT_NAMES[part.test.fact]}”`} onClick={() => set(part.id, null)}>
                <Trash2 size={16} />
              </IconButton>
            </div>
            <TestFields test={part.test} currency={currency} change={(test) => set(part.id, { ...part, test })} />
            {isWholeTest(part.test) ? null : <p className="text-stop font-semibold">Fill this in, so that it can be asked.</p>}
          </div>
        ),
      )}
      <div className="flex flex-wrap gap-2">
        <Button look="quiet" onClick={() => addTest(facts[0] ?? 'bought')}>
          <Plus size={15} aria-hidden="true" /> {group.parts.length === 0 && isRoot ? 'Ask something' : 'Question'}
        </Button>
        {group.parts.length > 0 ? (
          <Button look="quiet" onClick={() => change({ ...group, parts: [...group.parts, { ...emptyGroup(), of: 'any' }] })}>
            <Plus size={15} aria-hidden="true" /> Group
          </Button>
        ) : null}
        {group.parts.length === 1 && isRoot && group.of === 'all' ? (
          <Button look="quiet" onClick={() => change({ ...group, of: 'none' })}>
            Turn into “not”
          </Button>
        ) : null}
      </div>
    </div>
  );
}
