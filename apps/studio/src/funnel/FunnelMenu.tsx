import type { FunnelRow } from '@ruta/core/funnel';
import { Archive, ArchiveRestore, Copy, Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Menu, MenuItem, MenuList, MenuTrigger } from '../ui/Menu';
import { Modal } from '../ui/Modal';
import { funnelApi } from './api';

/** What can be done with a funnel as a whole: copied, put away, brought back. */
export function FunnelMenu({ funnel, isArchived }: { funnel: FunnelRow; isArchived: boolean }) {
  const [isArchiving, setArchiving] = useState(false);
  const navigate = useNavigate();
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
              <MenuItem onSelect={() => void navigate(`/funnels/new?copy=${funnel.id}`)}>
                <Copy size={16} aria-hidden="true" /> Duplicate
              </MenuItem>
              <MenuItem onSelect={() => setArchiving(true)}>
                <Archive size={16} aria-hidden="true" /> Archive
              </MenuItem>
            </>
          )}
        </MenuList>
      </Menu>
      {error ? <FormProblem>{problemOf(error).title}</FormProblem> : null}
      {isArchiving ? <ArchiveDialog funnel={funnel} onClose={() => setArchiving(false)} /> : null}
    </>
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
