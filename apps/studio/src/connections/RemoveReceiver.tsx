import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button, IconButton } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Modal } from '../ui/Modal';

/** Removes a receiver of messages after asking once more, since its log goes with it. */
export function RemoveReceiver(props: { name: string; isLoading: boolean; error: unknown; onRemove: () => void }) {
  const { name, isLoading, error, onRemove } = props;
  const [isAsking, setAsking] = useState(false);
  return (
    <>
      <IconButton name={`Remove ${name}`} onClick={() => setAsking(true)}>
        <Trash2 size={16} />
      </IconButton>
      <Modal open={isAsking} onClose={() => setAsking(false)} title={`Remove ${name}?`}>
        <p>It is told nothing more. Its log goes with it, and what is still tried is dropped. To pause it instead, switch it off.</p>
        <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
        <div className="flex flex-wrap justify-end gap-2 mt-4">
          <Button onClick={() => setAsking(false)}>Keep it</Button>
          <Button look="danger" disabled={isLoading} onClick={onRemove}>
            Remove it
          </Button>
        </div>
      </Modal>
    </>
  );
}
