import type { FunnelDetail } from '@ruta/core/checks';
import { useState } from 'react';
import { Button } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { refusedAt, refusedWhole } from '../ui/fieldError';
import { Modal } from '../ui/Modal';
import { funnelApi } from './api';

/** Name and public address of a funnel. */
export function FunnelSettings({ funnel, siteUrl, onClose }: { funnel: FunnelDetail; siteUrl: string; onClose: () => void }) {
  const [change, { error, isLoading }] = funnelApi.useChangeFunnelMutation();
  // The state that this dialog began with: another window may change it meanwhile.
  const [begun] = useState(funnel.revisions.settings);
  const [name, setName] = useState(funnel.name);
  const [slug, setSlug] = useState(funnel.slug);
  const refused = (path: string) => refusedAt(error, path);
  return (
    <Modal open onClose={onClose} title="Name and address" unsaved={name !== funnel.name || slug !== funnel.slug}>
      <form
        noValidate
        className="grid gap-4"
        onSubmit={async (event) => {
          event.preventDefault();
          const done = await change({ id: funnel.id, begun, name, slug })
            .unwrap()
            .catch(() => null);
          if (done) onClose();
        }}
      >
        <TextField label="Name of the funnel" value={name} onChange={(event) => setName(event.target.value)} error={refused('name')} />
        <TextField
          label="Address"
          value={slug}
          onChange={(event) => setSlug(event.target.value)}
          error={refused('slug')}
          hint={
            <>
              {siteUrl}/<strong>{slug}</strong>
              {funnel.version > 0 && slug !== funnel.slug ? '. It moves when you publish; links to the old address lead on to it.' : ''}
            </>
          }
        />
        <FormProblem>{refusedWhole(error)}</FormProblem>
        <Button look="main" type="submit" disabled={isLoading}>
          Save
        </Button>
        <p className="border-t border-line pt-3">
          <a href={`/api/funnels/${funnel.id}/export/json`} download className="text-info underline">
            The whole funnel as one file
          </a>
          , with its pages and pictures.
        </p>
      </form>
    </Modal>
  );
}
