import type { Bulk } from '@ruta/core/catalog';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { catalogApi } from './api';

/** What was just done to many products, and how it is undone. */
export interface Done {
  words: string;
  undo: Bulk[];
}

const counted = (count: number) => `${count.toLocaleString('en')} ${count === 1 ? 'product' : 'products'}`;
export const changedWords = (count: number): string => `${counted(count)} changed.`;
export const archivedWords = (count: number): string => `${counted(count)} archived.`;

/** Says what was just done to many products, and undoes it. */
export function UndoNotice({ done, onGone }: { done: Done; onGone: () => void }) {
  const [undoChange, { error, isLoading }] = catalogApi.useUndoChangeMutation();
  const undo = async () => {
    const undone = await undoChange(done.undo)
      .unwrap()
      .catch(() => null);
    if (undone) onGone();
  };
  return (
    <div role="status" className="flex items-center gap-3 rounded-md border border-line bg-white px-4 py-2.5 mb-3">
      <span>{done.undo.length === 0 ? 'Nothing to change: everything was like this already.' : done.words}</span>
      {done.undo.length === 0 ? null : (
        <Button disabled={isLoading} onClick={() => void undo()}>
          Undo
        </Button>
      )}
      <Button look="quiet" onClick={onGone}>
        Close
      </Button>
      {error ? <span className="text-stop font-semibold">{problemOf(error).title}</span> : null}
    </div>
  );
}
