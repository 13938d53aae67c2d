import type { BulkChange } from '@ruta/core/catalog';
import { wordsAtCommas } from '@ruta/core/formats';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { ArchiveDialog } from './ArchiveDialog';
import { catalogApi } from './api';
import { TAX_CLASS_CHOICES } from './natureChoices';

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

/** Does one thing to every product that is ticked. */
export function BulkBar(props: { ids: string[]; hidden: number; archived: boolean; onDone: () => void; onArchived: (ids: string[]) => void }) {
  const { ids, hidden, archived, onDone, onArchived } = props;
  const [asking, setAsking] = useState(false);
  const [what, setWhat] = useState<What>('status');
  const [value, setValue] = useState('live');
  const [change, { error, isLoading }] = catalogApi.useChangeProductsMutation();
  const apply = async (wanted: BulkChange) => {
    const done = await change({ ids, change: wanted })
      .unwrap()
      .catch(() => null);
    if (done) onDone();
  };
  const isWords = what !== 'status' && what !== 'taxClass';
  const words = wordsAtCommas(value);
  return (
    <section aria-label="Change what is chosen" className="rounded-md border border-ink bg-way-tint/50 px-4 py-3 mb-3">
      <div className="flex flex-wrap items-center gap-2.5">
        <strong className="mr-2">
          {ids.length} {ids.length === 1 ? 'product' : 'products'} chosen
          {hidden > 0 ? <span className="font-normal">, {hidden} of them not shown</span> : null}
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
          Change {ids.length}
        </Button>
        <Button disabled={isLoading} onClick={() => (archived ? apply({ archived: false }) : setAsking(true))}>
          {archived ? 'Bring back' : 'Archive'}
        </Button>
        <Button look="quiet" onClick={onDone}>
          Choose none
        </Button>
      </div>
      {asking ? (
        <ArchiveDialog
          ids={ids}
          hidden={hidden}
          onClose={() => setAsking(false)}
          onDone={() => {
            onArchived(ids);
            onDone();
          }}
        />
      ) : null}
      {error ? (
        <div className="mt-2">
          <FormProblem>{problemOf(error).title}</FormProblem>
        </div>
      ) : null}
    </section>
  );
}
