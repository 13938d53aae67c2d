import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { catalogApi } from './api';

/** Says how many products were just archived, and takes it back. */
export function ArchivedNotice({ ids, onGone }: { ids: readonly string[]; onGone: () => void }) {
  const [change, { error, isLoading }] = catalogApi.useChangeProductsMutation();
  const undo = async () => {
    const done = await change({ ids: [...ids], change: { archived: false } })
      .unwrap()
      .catch(() => null);
    if (done) onGone();
  };
  return (
    <div role="status" className="flex items-center gap-3 rounded-md border border-line bg-white px-4 py-2.5 mb-3">
      <span>
        {ids.length} {ids.length === 1 ? 'product' : 'products'} archived.
      </span>
      <Button disabled={isLoading} onClick={() => void undo()}>
        Undo
      </Button>
      <Button look="quiet" onClick={onGone}>
        Close
      </Button>
      {error ? <span className="text-stop font-semibold">{problemOf(error).title}</span> : null}
    </div>
  );
}
