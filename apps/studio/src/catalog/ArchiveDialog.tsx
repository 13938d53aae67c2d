import type { Bulk } from '@ruta/core/catalog';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { catalogApi } from './api';

/**
 * Asks before products are archived: how many, which of them are not on the screen, and which live checkouts close.
 * @param hidden how many of them the list does not show at the moment
 */
export function ArchiveDialog(props: { ids: readonly string[]; hidden?: number; onClose: () => void; onDone: (undo: Bulk[]) => void }) {
  const { ids, hidden = 0, onClose, onDone } = props;
  const { data: uses, error: unknown } = catalogApi.useLiveUseQuery([...ids]);
  const [change, { error, isLoading }] = catalogApi.useChangeProductsMutation();
  const what = ids.length === 1 ? 'this product' : `${ids.length} products`;
  return (
    <Modal
      open
      onClose={onClose}
      title={`Archive ${what}?`}
      description="They leave the lists and cannot be sold. What was sold of them stays as it is, and they can be brought back."
    >
      {hidden > 0 ? (
        <p className="mb-3 font-semibold">
          {hidden} of them {hidden === 1 ? 'is' : 'are'} not on the list as it is filtered now.
        </p>
      ) : null}
      {uses && uses.length > 0 ? (
        <div role="alert" className="mb-4 rounded-md border border-stop px-4 py-3">
          <p className="font-semibold">This closes at once:</p>
          <ul className="list-disc pl-5">
            {uses.map((use) => (
              <li key={`${use.productId} ${use.funnelName}`}>
                “{use.productName}” in the live funnel “{use.funnelName}”
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      <FormProblem>{error || unknown ? problemOf(error ?? unknown).title : null}</FormProblem>
      <div className="flex gap-3 mt-3">
        <Button look="main" onClick={onClose}>
          Cancel
        </Button>
        <Button
          look="danger"
          disabled={isLoading || !uses}
          onClick={async () => {
            const done = await change({ ids: [...ids], change: { archived: true } })
              .unwrap()
              .catch(() => null);
            if (done) onDone(done.undo);
          }}
        >
          Archive {ids.length}
        </Button>
      </div>
    </Modal>
  );
}
