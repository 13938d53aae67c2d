import type { Layout, ScreenSize, SizeChange } from '@ruta/core/elements';
import { withSizeChange } from '@ruta/core/elements';
import { type Operation, type PageDocument, reorderAt, resetOrderAt } from '@ruta/core/page';
import { ArrowDown, ArrowUp, RotateCcw } from 'lucide-react';
import { Button, IconButton } from '../ui/Button';
import { Check } from '../ui/Field';
import { useEditor } from './editorSlice';
import { Choice } from './elements/Choice';

const SPACES = { '': 'Usual', none: 'None', small: 'Less', large: 'More' };
const SCALES = { '': 'Usual', smaller: 'Smaller', larger: 'Larger' };
const ALIGNS = { '': 'As the section', start: 'To the left', center: 'In the middle', end: 'To the right' };
const PANELS = { '': 'Nothing', sheet: 'A sheet', tint: 'A tinted sheet', line: 'A frame', accent: 'The accent colour' };

/** An empty choice is none. */
const picked = <T extends string>(value: T | ''): T | undefined => value || undefined;

/** How an element stands: on every size of screen, and what differs on the one that is being looked at. */
export function LayoutFields({ layout = {}, onChange }: { layout: Layout | undefined; onChange: (layout: Layout | undefined) => void }) {
  const change = (changes: Partial<Layout>) => {
    const next = Object.fromEntries(Object.entries({ ...layout, ...changes }).filter(([, value]) => value !== undefined)) as Layout;
    onChange(Object.keys(next).length > 0 ? next : undefined);
  };
  return (
    <details className="border-t border-line pt-3 mt-4" open={Object.keys(layout).some((key) => key !== 'sizes') || undefined}>
      <summary className="font-semibold cursor-pointer">Layout</summary>
      <div className="grid gap-3 mt-2">
        <Choice label="Space above" value={layout.space ?? ''} choices={SPACES} onChange={(space) => change({ space: picked(space) })} />
        <Choice label="Alignment" value={layout.align ?? ''} choices={ALIGNS} onChange={(align) => change({ align: picked(align) })} />
        <Choice
          label="Width"
          value={layout.width ?? ''}
          choices={{ '': 'All of the column', 'two-thirds': 'Two thirds', half: 'Half', third: 'A third' }}
          onChange={(width) => change({ width: picked(width) })}
        />
        <Choice label="Size" value={layout.scale ?? ''} choices={SCALES} onChange={(scale) => change({ scale: picked(scale) })} />
        <Choice label="Stands on" value={layout.panel ?? ''} choices={PANELS} onChange={(panel) => change({ panel: picked(panel) })} />
      </div>
    </details>
  );
}

const NAMES: Record<ScreenSize, string> = { phone: 'a phone', tablet: 'a tablet', desktop: 'a desktop' };

interface SizeProps {
  page: PageDocument;
  id: string;
  sizes: Layout['sizes'];
  /** A section has no size of its letters to change. */
  isSection?: boolean;
  onChange: (sizes: Layout['sizes']) => void;
  apply: (operation: Operation | null) => void;
}

/** What differs on the size of screen that is being looked at; marked, and taken back by one press. */
export function SizeFields({ page, id, sizes, isSection, onChange, apply }: SizeProps) {
  const { screen } = useEditor().view;
  const own = sizes?.[screen] ?? {};
  const set = (changes: SizeChange) => onChange(withSizeChange(sizes, screen, changes));
  const others = (Object.keys(sizes ?? {}) as ScreenSize[]).filter((size) => size !== screen);
  const differs = Object.keys(own).length > 0;
  return (
    <section className="border-t border-line pt-3 mt-4 grid gap-3" data-sizes={screen}>
      <h3 className="font-semibold">
        Only on {NAMES[screen]} {differs ? <span className="ml-1 rounded-sm bg-info-tint px-1.5 py-0.5 text-sm">differs</span> : null}
      </h3>
      <Check label="Hide it" checked={own.hide ?? false} onChange={(event) => set({ hide: event.target.checked || undefined })} />
      <div className="flex items-center gap-1">
        <span className="mr-auto">Place</span>
        <IconButton
          name={`Earlier on ${NAMES[screen]}`}
          disabled={reorderAt(page, id, screen, -1) === null}
          onClick={() => apply(reorderAt(page, id, screen, -1))}
        >
          <ArrowUp size={16} />
        </IconButton>
        <IconButton name={`Later on ${NAMES[screen]}`} disabled={reorderAt(page, id, screen, 1) === null} onClick={() => apply(reorderAt(page, id, screen, 1))}>
          <ArrowDown size={16} />
        </IconButton>
        {own.order === undefined ? null : (
          <IconButton name="Same order as everywhere" onClick={() => apply(resetOrderAt(page, id, screen))}>
            <RotateCcw size={15} />
          </IconButton>
        )}
      </div>
      {isSection ? null : <Choice label="Size" value={own.scale ?? ''} choices={SCALES} onChange={(scale) => set({ scale: picked(scale) })} />}
      <Choice
        label={isSection ? 'Space above and below' : 'Space above'}
        value={own.space ?? ''}
        choices={SPACES}
        onChange={(space) => set({ space: picked(space) })}
      />
      {isSection ? null : (
        <Choice label="Alignment" value={own.align ?? ''} choices={{ ...ALIGNS, '': 'As everywhere' }} onChange={(align) => set({ align: picked(align) })} />
      )}
      {differs ? (
        <Button
          look="quiet"
          onClick={() => {
            if (own.order !== undefined) apply(resetOrderAt(page, id, screen));
            onChange(withSizeChange(sizes, screen, { hide: undefined, order: undefined, scale: undefined, space: undefined, align: undefined }));
          }}
        >
          <RotateCcw size={15} aria-hidden="true" /> As on every other screen
        </Button>
      ) : null}
      {others.length > 0 ? <p className="text-soft">It also differs on {others.map((size) => NAMES[size]).join(' and ')}.</p> : null}
    </section>
  );
}
