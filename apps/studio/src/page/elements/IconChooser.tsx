import { ICON_NAMES, type IconName } from '@ruta/core/elements';
import { Icon } from '@ruta/pages';
import { useState } from 'react';
import { Button } from '../../ui/Button';
import { TextField } from '../../ui/Field';
import { Modal } from '../../ui/Modal';

/** One small picture out of all, found by looking or by its name. */
export function IconChooser({ value, onChange }: { value: IconName; onChange: (icon: IconName) => void }) {
  const [isOpen, setOpen] = useState(false);
  const [search, setSearch] = useState('');
  const found = ICON_NAMES.filter((name) => name.includes(search.trim().toLowerCase().replaceAll(' ', '-')));
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        <Icon name={value} size={17} /> Icon: {value.replaceAll('-', ' ')}
      </Button>
      <Modal open={isOpen} onClose={() => setOpen(false)} title="Choose an icon">
        <TextField label="Find" value={search} onChange={(event) => setSearch(event.target.value)} />
        <ul className="grid grid-cols-6 gap-2 mt-3">
          {found.map((name) => (
            <li key={name}>
              <button
                type="button"
                aria-label={name.replaceAll('-', ' ')}
                title={name.replaceAll('-', ' ')}
                aria-pressed={name === value}
                onClick={() => {
                  onChange(name);
                  setOpen(false);
                }}
                className={`grid place-items-center w-full h-12 rounded-md border ${name === value ? 'border-ink bg-way-tint' : 'border-line hover:border-ink'}`}
              >
                <Icon name={name} />
              </button>
            </li>
          ))}
        </ul>
        {found.length === 0 ? <p className="text-soft">No icon is called that.</p> : null}
      </Modal>
    </>
  );
}
