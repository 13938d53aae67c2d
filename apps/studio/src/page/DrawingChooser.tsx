import { DRAWING_NAMES, DRAWING_PURPOSES, DRAWINGS, type DrawingName, type DrawingPurpose, TRADES, type Trade } from '@ruta/core/elements';
import type { Brand } from '@ruta/core/shop';
import { DrawingView, pageCss } from '@ruta/pages';
import { useMemo, useState } from 'react';
import { Button } from '../ui/Button';
import { SelectField } from '../ui/Field';
import { Modal } from '../ui/Modal';

/** One of the drawings that ship with Ruta, each in the seller's own colours. */
export function DrawingChooser({ value, brand, onChange }: { value: DrawingName; brand: Brand; onChange: (name: DrawingName) => void }) {
  const [isOpen, setOpen] = useState(false);
  const [trade, setTrade] = useState<Trade | ''>('');
  const [purpose, setPurpose] = useState<DrawingPurpose | ''>('');
  const style = useMemo(() => pageCss(brand, { within: '.drawings' }), [brand]);
  const found = DRAWING_NAMES.filter((name) => (!trade || DRAWINGS[name].trade === trade) && (!purpose || DRAWINGS[name].purpose === purpose));
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        Drawing: {DRAWINGS[value].name}
      </Button>
      <Modal open={isOpen} onClose={() => setOpen(false)} title="Choose a drawing" description="All of them take the brand’s colours." wide>
        <style>{style}</style>
        <div className="grid grid-cols-2 gap-3 mb-3">
          <SelectField label="Trade" value={trade} onChange={(event) => setTrade(event.target.value as Trade | '')}>
            <option value="">All</option>
            {Object.entries(TRADES)
              .filter(([key]) => key !== 'any')
              .map(([key, name]) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
          </SelectField>
          <SelectField label="Kind" value={purpose} onChange={(event) => setPurpose(event.target.value as DrawingPurpose | '')}>
            <option value="">All</option>
            {Object.entries(DRAWING_PURPOSES).map(([key, name]) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </SelectField>
        </div>
        <ul className="drawings grid grid-cols-3 sm:grid-cols-5 gap-2">
          {found.map((name) => (
            <li key={name}>
              <button
                type="button"
                data-drawing={name}
                aria-pressed={name === value}
                onClick={() => {
                  onChange(name);
                  setOpen(false);
                }}
                className={`block w-full rounded-md border p-2 text-left text-sm ${name === value ? 'border-ink' : 'border-line hover:border-ink'}`}
                style={{ background: 'var(--ground)', color: 'var(--ink)' }}
              >
                <span className="grid place-items-center h-24 [&_svg]:!h-24">
                  <DrawingView name={name} />
                </span>
                <span className="block mt-1 leading-tight">{DRAWINGS[name].name}</span>
              </button>
            </li>
          ))}
        </ul>
        {found.length === 0 ? <p className="text-soft">No drawing is both.</p> : null}
      </Modal>
    </>
  );
}
