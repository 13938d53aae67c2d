import type { WebhookSecret } from '@ruta/core/webhooks';
import { Button } from '../ui/Button';
import { Modal } from '../ui/Modal';

/** The secret of a webhook, shown this once. */
export function WebhookSecretDialog({ made: { webhook, secret }, onClose }: { made: WebhookSecret; onClose: () => void }) {
  return (
    <Modal open onClose={onClose} title={`Secret of ${webhook.name}`} description="It is shown this once. Put it where your program reads it.">
      <p>
        <code className="block rounded-md bg-band px-3 py-2 font-mono wrap-anywhere select-all">{secret}</code>
      </p>
      {webhook.olderSecretUntil === null ? null : (
        <p className="mt-3">Messages are signed with the secret before it as well for one day, so that you can change over at leisure.</p>
      )}
      <p className="mt-3 text-soft">
        Each message carries <code className="font-mono">webhook-id</code>, <code className="font-mono">webhook-timestamp</code> and{' '}
        <code className="font-mono">webhook-signature</code>: <code className="font-mono">v1,</code> and the HMAC-SHA256 of{' '}
        <code className="font-mono">id.timestamp.body</code> in base64, with what follows <code className="font-mono">whsec_</code> as the key, read as base64.
        What a message holds is written in <code className="font-mono">docs/schemas/webhook.schema.json</code>.
      </p>
      <p className="mt-4">
        <Button look="main" onClick={onClose}>
          I have kept it
        </Button>
      </p>
    </Modal>
  );
}
