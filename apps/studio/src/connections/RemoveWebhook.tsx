import type { Webhook } from '@ruta/core/webhooks';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button, IconButton } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { connectionsApi } from './api';

/** Removes a webhook after asking once more, since its log goes with it. */
export function RemoveWebhook({ webhook }: { webhook: Webhook }) {
  const [isAsking, setAsking] = useState(false);
  const [remove, { error, isLoading }] = connectionsApi.useRemoveWebhookMutation();
  return (
    <>
      <IconButton name={`Remove ${webhook.name}`} onClick={() => setAsking(true)}>
        <Trash2 size={16} />
      </IconButton>
      <Modal open={isAsking} onClose={() => setAsking(false)} title={`Remove ${webhook.name}?`}>
        <p>It is told nothing more. Its log goes with it, and what is still tried is dropped. To pause it instead, switch it off.</p>
        <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
        <div className="flex flex-wrap justify-end gap-2 mt-4">
          <Button onClick={() => setAsking(false)}>Keep it</Button>
          <Button look="danger" disabled={isLoading} onClick={() => void remove(webhook.id)}>
            Remove it
          </Button>
        </div>
      </Modal>
    </>
  );
}
