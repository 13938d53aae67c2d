import { copySection, type Operation, type PageDocument, type Section } from '@ruta/core/page';
import { BookmarkPlus, Link2, Unlink } from 'lucide-react';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { newId } from '../base/newId';
import { useAppDispatch } from '../base/store';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { pageApi } from './api';
import { selected } from './editorSlice';

/** Keeping a section to use it again; and for one that is linked, where a change goes and how it ends. */
export function OwnSectionFields({ page, section, apply }: { page: PageDocument; section: Section; apply: (operation: Operation) => void }) {
  const dispatch = useAppDispatch();
  const { data: own = [] } = pageApi.useOwnSectionsQuery();
  const [keep, keeping] = pageApi.useKeepOwnSectionMutation();
  const [kept, setKept] = useState(false);
  const link = own.find(({ id }) => id === section.linkedTo);
  async function save(isLinked: boolean) {
    const id = newId('ownSection');
    const done = await keep({ id, name: section.name, section: isLinked ? section : copySection(section, newId) })
      .unwrap()
      .catch(() => null);
    if (!done) return;
    setKept(true);
    if (isLinked) apply({ kind: 'changeSection', sectionId: section.id, changes: { linkedTo: id } });
  }
  if (section.linkedTo !== undefined) {
    const others = Math.max(0, (link?.pages ?? 1) - 1);
    return (
      <div className="rounded-md border-l-3 border-info bg-info-tint p-3 grid gap-2" data-linked="">
        <p>
          <Link2 size={15} className="inline" aria-hidden="true" /> Linked: what you change here changes{' '}
          {others === 0 ? 'wherever else it is put' : others === 1 ? 'on one other page' : `on ${others} other pages`} too. Visitors see it there when this
          funnel is published.
        </p>
        <Button
          look="quiet"
          onClick={() => {
            const index = page.sections.indexOf(section);
            const copy = copySection(section, newId);
            apply({
              kind: 'several',
              operations: [
                { kind: 'removeSection', sectionId: section.id },
                { kind: 'insertSection', index, section: copy },
              ],
            });
            dispatch(selected({ kind: 'section', id: copy.id }));
          }}
        >
          <Unlink size={15} aria-hidden="true" /> Make it this page’s own
        </Button>
      </div>
    );
  }
  return (
    <details>
      <summary className="font-semibold cursor-pointer">Use it again elsewhere</summary>
      <div className="grid gap-2 mt-2">
        <Button disabled={keeping.isLoading} onClick={() => void save(false)}>
          <BookmarkPlus size={15} aria-hidden="true" /> Keep a copy in the library
        </Button>
        <Button disabled={keeping.isLoading} onClick={() => void save(true)}>
          <Link2 size={15} aria-hidden="true" /> Keep it linked
        </Button>
        <p className="text-soft" role="status">
          {kept ? 'It stands in the library now, under “Your own”.' : 'Linked, a change reaches every page that shows it.'}
        </p>
        <FormProblem>{keeping.error ? (problemOf(keeping.error).errors[0]?.message ?? problemOf(keeping.error).title) : null}</FormProblem>
      </div>
    </details>
  );
}
