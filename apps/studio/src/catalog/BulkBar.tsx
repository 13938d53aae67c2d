import type { BulkChange } from '@ruta/core/catalog';
import { wordsAtCommas } from '@ruta/core/formats';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { ArchiveDialog } from './ArchiveDialog';
import { catalogApi } from './api';
import { TAX_CLASS_CHOICES } from './natureChoices';
import { archivedWords, changedWords, type Done } from './UndoNotice';

type What = 'status' | 'taxClass' | 'addTags' | 'removeTags' | 'addCategories' | 'removeCategories';

const CHOICES: Record<'status' | 'taxClass', ReadonlyArray<[string, string]>> = {
  status: [
    ['live', 'Live'],
    ['test', 'Test'],
    ['off', 'Off'],
  ],
  taxClass: TAX_CLASS_CHOICES,
};
const CONTROL = 'rounded-md border border-[#98a5a1] bg-white px-2.5 min-h-9';

/**
 * Does one thing to every product that is selected.
 * @param hidden how many of them do not match the list as it is filtered now
 */
export function BulkBar(props: { ids: string[]; hidden: number; archived: boolean; onClear: () => void; onDone: (done: Done) => void }) {
  const { ids, hidden, archived, onClear, onDone } = props;
  const [asking, setAsking] = useState(false);
  const [what, setWhat] = useState<What>('status');
  const [value, setValue] = useState('live');
  const [change, { error, isLoading }] = catalogApi.useChangeProductsMutation();
  const apply = async (wanted: BulkChange) => {
    const done = await change({ ids, change: wanted })
      .unwrap()
      .catch(() => null);
    if (done) onDone({ words: changedWords(done.changed), undo: done.undo });
  };
  const isWords = what !== 'status' && what !== 'taxClass';
  const words = wordsAtCommas(value);
  return (
    <section aria-label="Edit selected products" className="rounded-md border border-ink bg-way-tint/50 px-4 py-3 mb-3">
      <div className="flex flex-wrap items-center gap-2.5">
        <strong className="mr-2">
          {ids.length.toLocaleString('en')} {ids.length === 1 ? 'product' : 'products'} selected
          {hidden > 0 ? <span className="font-normal">, {hidden.toLocaleString('en')} of them not on this list</span> : null}
        </strong>
        <select
          aria-label="What to change"
          className={CONTROL}
          value={what}
          onChange={(event) => {
            const next = event.target.value as What;
            setWhat(next);
            setValue(next === 'status' || next === 'taxClass' ? (CHOICES[next][0]?.[0] ?? '') : '');
          }}
        >
          <option value="status">Set the status</option>
          <option value="taxClass">Set the tax class</option>
          <option value="addTags">Add tags</option>
          <option value="removeTags">Remove tags</option>
          <option value="addCategories">Add categories</option>
          <option value="removeCategories">Remove categories</option>
        </select>
        {isWords ? (
          <input
            aria-label="Words, separated by commas"
            placeholder="Separated by commas"
            className={CONTROL}
            value={value}
            onChange={(event) => setValue(event.target.value)}
          />
        ) : (
          <select aria-label="To what" className={CONTROL} value={value} onChange={(event) => setValue(event.target.value)}>
            {CHOICES[what].map(([key, text]) => (
              <option key={key} value={key}>
                {text}
              </option>
            ))}
          </select>
        )}
        <Button look="main" disabled={isLoading || (isWords && words.length === 0)} onClick={() => apply({ [what]: isWords ? words : value })}>
          Change {ids.length.toLocaleString('en')}
        </Button>
        <Button disabled={isLoading} onClick={() => (archived ? apply({ archived: false }) : setAsking(true))}>
          {archived ? 'Restore' : 'Archive'}
        </Button>
        <Button look="quiet" onClick={onClear}>
          Clear selection
        </Button>
      </div>
      {asking ? (
        <ArchiveDialog ids={ids} hidden={hidden} onClose={() => setAsking(false)} onDone={(undo) => onDone({ words: archivedWords(ids.length), undo })} />
      ) : null}
      {error ? (
        <div className="mt-2">
          <FormProblem>{problemOf(error).title}</FormProblem>
        </div>
      ) : null}
    </section>
  );
}
