import type { FunnelRow } from '@ruta/core/funnel';
import { Archive, ArchiveRestore, Copy, Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { Menu, MenuItem, MenuList, MenuTrigger } from '../ui/Menu';
import { Modal } from '../ui/Modal';
import { funnelApi } from './api';

/** What can be done with a funnel as a whole: copied, put away, brought back. */
export function FunnelMenu({ funnel, isArchived }: { funnel: FunnelRow; isArchived: boolean }) {
  const [asking, setAsking] = useState<'copy' | 'archive' | null>(null);
  const [archive, { error }] = funnelApi.useArchiveFunnelMutation();
  return (
    <>
      <Menu>
        <MenuTrigger
          aria-label={`More about ${funnel.name}`}
          title="More"
          className="absolute right-3 top-3 grid place-items-center size-8 rounded-md text-soft hover:bg-band"
        >
          <Ellipsis size={18} />
        </MenuTrigger>
        <MenuList align="end">
          {isArchived ? (
            <MenuItem onSelect={() => void archive({ id: funnel.id, archived: false })}>
              <ArchiveRestore size={16} aria-hidden="true" /> Bring back
            </MenuItem>
          ) : (
            <>
              <MenuItem onSelect={() => setAsking('copy')}>
                <Copy size={16} aria-hidden="true" /> Duplicate
              </MenuItem>
              <MenuItem onSelect={() => setAsking('archive')}>
                <Archive size={16} aria-hidden="true" /> Archive
              </MenuItem>
            </>
          )}
        </MenuList>
      </Menu>
      {error ? <FormProblem>{problemOf(error).title}</FormProblem> : null}
      {asking === 'copy' ? <CopyDialog funnel={funnel} onClose={() => setAsking(null)} /> : null}
      {asking === 'archive' ? <ArchiveDialog funnel={funnel} onClose={() => setAsking(null)} /> : null}
    </>
  );
}

const MOST_LETTERS = 80;

function CopyDialog({ funnel, onClose }: { funnel: FunnelRow; onClose: () => void }) {
  const [copy, { error, isLoading }] = funnelApi.useCopyFunnelMutation();
  const [name, setName] = useState(`${funnel.name.slice(0, MOST_LETTERS - 7)} (copy)`);
  const navigate = useNavigate();
  return (
    <Modal
      open
      onClose={onClose}
      title={`Duplicate “${funnel.name}”`}
      description="Every stop, route, offer and page, as a draft of its own at an address of its own."
    >
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          copy({ id: funnel.id, name })
            .unwrap()
            .then(({ id }) => navigate(`/funnels/${id}/map`))
            .catch(() => undefined);
        }}
      >
        <TextField label="Name of the copy" value={name} maxLength={MOST_LETTERS} autoFocus onChange={(event) => setName(event.target.value)} />
        <FormProblem>{error ? (problemOf(error).errors[0]?.message ?? problemOf(error).title) : null}</FormProblem>
        <div>
          <Button look="main" type="submit" disabled={isLoading || name.trim() === ''}>
            Duplicate it
          </Button>
        </div>
      </form>
    </Modal>
  );
}

function ArchiveDialog({ funnel, onClose }: { funnel: FunnelRow; onClose: () => void }) {
  const [archive, { error, isLoading }] = funnelApi.useArchiveFunnelMutation();
  return (
    <Modal
      open
      onClose={onClose}
      title={`Archive “${funnel.name}”`}
      description={
        funnel.live
          ? 'Its pages are offline from this moment, and a test that runs in it ends. Orders, contacts and figures stay, and it can be brought back as it is.'
          : 'It leaves the list, and can be brought back as it is.'
      }
    >
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
      <div className="flex gap-3">
        <Button
          look={funnel.live ? 'danger' : 'main'}
          disabled={isLoading}
          onClick={() =>
            archive({ id: funnel.id, archived: true })
              .unwrap()
              .then(onClose)
              .catch(() => undefined)
          }
        >
          Archive it
        </Button>
        <Button onClick={onClose}>Keep it</Button>
      </div>
    </Modal>
  );
}
