import { TRADES, type Trade } from '@ruta/core/elements';
import { copySection, PAGE_VERSION, type PageDocument, type Section } from '@ruta/core/page';
import { buildSection, SECTION_PURPOSES, SECTIONS, type SectionPurpose } from '@ruta/core/sections';
import type { PageContext } from '@ruta/pages';
import { useMemo, useState } from 'react';
import { newId } from '../base/newId';
import { SelectField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { PagePicture } from '../ui/PagePicture';

const PICTURE = { width: 366, height: 150 };

const CHOICES = SECTIONS.map(({ key, purpose, name, trade, plan }) => ({ key, purpose, name, trade, section: buildSection(plan(), newId) }));

/** Ready sections by purpose and trade, each shown in the seller's own brand and with their own product. */
export function SectionLibrary({ context, onClose, onChoose }: { context: PageContext; onClose: () => void; onChoose: (section: Section) => void }) {
  const [purpose, setPurpose] = useState<SectionPurpose | ''>('');
  const [trade, setTrade] = useState<Trade | ''>('');
  const found = useMemo(
    () => CHOICES.filter((choice) => (!purpose || choice.purpose === purpose) && (!trade || !choice.trade || choice.trade === trade)),
    [purpose, trade],
  );
  return (
    <Modal open onClose={onClose} title="Add a section" description="It takes the page’s look at once. Every word can be changed afterwards." wide>
      <div className="grid sm:grid-cols-[190px_minmax(0,1fr)] gap-5">
        <div className="grid gap-3 content-start sm:sticky sm:top-0 sm:self-start">
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
          <ul className="max-sm:flex max-sm:flex-wrap" aria-label="Purpose">
            {[['', 'All'] as const, ...Object.entries(SECTION_PURPOSES)].map(([key, name]) => (
              <li key={key}>
                <button
                  type="button"
                  aria-pressed={purpose === key}
                  onClick={() => setPurpose(key as SectionPurpose | '')}
                  className={`w-full rounded-md px-2 py-1 text-left ${purpose === key ? 'bg-way-tint font-semibold' : 'hover:bg-band'}`}
                >
                  {name}
                </button>
              </li>
            ))}
          </ul>
        </div>
        <ul className="grid md:grid-cols-2 gap-4 content-start">
          {found.map(({ key, name, section }) => (
            <li key={key}>
              <button
                type="button"
                data-library={key}
                onClick={() => onChoose(copySection(section, newId))}
                className="block w-full rounded-md border border-line overflow-hidden text-left hover:border-ink"
              >
                <PagePicture page={pageWith(section)} context={context} width={PICTURE.width} height={PICTURE.height} />
                <span className="block px-3 py-2 font-semibold border-t border-line">{name}</span>
              </button>
            </li>
          ))}
          {found.length === 0 ? <li className="text-soft">No section is both.</li> : null}
        </ul>
      </div>
    </Modal>
  );
}

const pageWith = (section: Section): PageDocument => ({ version: PAGE_VERSION, title: section.name, description: '', indexed: false, sections: [section] });
