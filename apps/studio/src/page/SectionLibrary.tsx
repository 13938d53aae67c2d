import { PAGE_VERSION, type PageDocument, type Section } from '@ruta/core/page';
import { buildSection, SECTIONS } from '@ruta/core/sections';
import type { PageContext } from '@ruta/pages';
import { useMemo } from 'react';
import { newId } from '../base/newId';
import { Modal } from '../ui/Modal';
import { PagePicture } from '../ui/PagePicture';

const PICTURE = { width: 366, height: 124 };

/** Ready sections by purpose, each shown in the seller's own brand. */
export function SectionLibrary({ context, onClose, onChoose }: { context: PageContext; onClose: () => void; onChoose: (section: Section) => void }) {
  const choices = useMemo(() => SECTIONS.map(({ purpose, name, plan }) => ({ key: purpose, name, section: buildSection(plan(), newId) })), []);
  return (
    <Modal open onClose={onClose} title="Add a section" description="It takes the page’s look at once. Every word can be changed afterwards." wide>
      <ul className="grid sm:grid-cols-2 gap-4">
        {choices.map(({ key, name, section }) => (
          <li key={key}>
            <button
              type="button"
              data-library={key}
              onClick={() => onChoose(section)}
              className="block w-full rounded-md border border-line overflow-hidden text-left hover:border-ink"
            >
              <PagePicture page={pageWith(section)} context={context} width={PICTURE.width} height={PICTURE.height} />
              <span className="block px-3 py-2 font-semibold border-t border-line">{name}</span>
            </button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}

const pageWith = (section: Section): PageDocument => ({ version: PAGE_VERSION, title: section.name, description: '', indexed: false, sections: [section] });
