import { TRADES, type Trade } from '@ruta/core/elements';
import { copySection, type OwnSection, PAGE_VERSION, type PageDocument, type Section } from '@ruta/core/page';
import { buildSection, SECTION_PURPOSES, SECTIONS, type SectionPurpose } from '@ruta/core/sections';
import type { PageContext } from '@ruta/pages';
import { Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { newId } from '../base/newId';
import { useAppDispatch } from '../base/store';
import { Button, IconButton } from '../ui/Button';
import { SelectField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { PagePicture } from '../ui/PagePicture';
import { pageApi } from './api';
import { pictureAdded } from './editorSlice';

const PICTURE = { width: 366, height: 150 };

const CHOICES = SECTIONS.map(({ key, purpose, name, trade, plan }) => ({ key, purpose, name, trade, section: buildSection(plan(), newId) }));

interface LibraryProps {
  context: PageContext;
  /** Own sections that the page shows linked already: once is enough. */
  linkedHere: readonly string[];
  onClose: () => void;
  onChoose: (section: Section) => void;
}

/** Ready sections by purpose and trade, each shown in the seller's own brand and with their own product. */
export function SectionLibrary({ context, linkedHere, onClose, onChoose }: LibraryProps) {
  const [purpose, setPurpose] = useState<SectionPurpose | 'own' | ''>('');
  const { data: own = [] } = pageApi.useOwnSectionsQuery();
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
            {[['', 'All'] as const, ...(own.length > 0 ? [['own', 'Your own'] as const] : []), ...Object.entries(SECTION_PURPOSES)].map(([key, name]) => (
              <li key={key}>
                <button
                  type="button"
                  aria-pressed={purpose === key}
                  onClick={() => setPurpose(key as SectionPurpose | 'own' | '')}
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
          {purpose === 'own' || purpose === ''
            ? own.map((each) => <OwnChoice key={each.id} own={each} isHere={linkedHere.includes(each.id)} context={context} onChoose={onChoose} />)
            : null}
          {found.length === 0 && purpose !== 'own' ? <li className="text-soft">No section is both.</li> : null}
        </ul>
      </div>
    </Modal>
  );
}

/** A section of the seller's own: a copy goes its own way, a linked one follows wherever it is changed. */
function OwnChoice({ own, isHere, context, onChoose }: { own: OwnSection; isHere: boolean; context: PageContext; onChoose: LibraryProps['onChoose'] }) {
  const dispatch = useAppDispatch();
  const [remove] = pageApi.useRemoveOwnSectionMutation();
  const choose = (section: Section) => {
    for (const picture of Object.values(own.pictures)) dispatch(pictureAdded(picture));
    onChoose(section);
  };
  return (
    <li className="rounded-md border border-line overflow-hidden" data-own-section={own.id}>
      <PagePicture
        page={pageWith(own.section)}
        context={{ ...context, pictures: { ...context.pictures, ...own.pictures } }}
        width={PICTURE.width}
        height={PICTURE.height}
      />
      <div className="px-3 py-2 border-t border-line grid gap-2">
        <p className="font-semibold">
          {own.name} <span className="text-soft font-normal">{own.pages === 0 ? 'your own' : own.pages === 1 ? 'on one page' : `on ${own.pages} pages`}</span>
        </p>
        <p className="flex flex-wrap gap-2">
          <Button onClick={() => choose(copySection(own.section, newId))}>Put a copy</Button>
          <Button disabled={isHere} onClick={() => choose(own.section)}>
            {isHere ? 'Linked here already' : 'Link it'}
          </Button>
          <IconButton name={`Forget “${own.name}”; pages keep it as their own`} onClick={() => void remove(own.id)}>
            <Trash2 size={15} />
          </IconButton>
        </p>
      </div>
    </li>
  );
}

const pageWith = (section: Section): PageDocument => ({ version: PAGE_VERSION, title: section.name, description: '', indexed: false, sections: [section] });
