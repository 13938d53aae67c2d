import { asManyAs, evenly, type Operation, PATTERNS, type PageDocument, type PatternName, type Section } from '@ruta/core/page';
import { newId } from '../base/newId';
import { Button } from '../ui/Button';
import { Check, SelectField, TextField } from '../ui/Field';
import { Choice } from './elements/Choice';
import { SizeFields } from './LayoutFields';
import { OwnSectionFields } from './OwnSectionFields';
import { PictureChooser } from './PictureChooser';

type Changes = Partial<Omit<Section, 'id' | 'columns'>>;

/** Everything of a section but its words: ground, columns, space, and what differs on one size of screen. */
export function SectionSheet({ page, section, apply }: { page: PageDocument; section: Section; apply: (operation: Operation | null) => void }) {
  const change = (changes: Changes) => apply({ kind: 'changeSection', sectionId: section.id, changes });
  const { columns } = section;
  return (
    <div className="grid gap-3">
      <OwnSectionFields page={page} section={section} apply={apply} />
      <TextField
        label="Name"
        hint="Only your team sees it."
        value={section.name}
        maxLength={60}
        error={section.name.trim() === '' ? 'Give the section a name.' : undefined}
        onChange={(event) => change({ name: event.target.value })}
      />
      <SelectField
        label="Columns"
        hint="Drag the line between two on the page to change their widths."
        value={columns.length}
        onChange={(event) => apply({ kind: 'setColumns', sectionId: section.id, columns: asManyAs(section, Number(event.target.value), newId) })}
      >
        {[1, 2, 3, 4, 5, 6].map((count) => (
          <option key={count} value={count}>
            {count}
          </option>
        ))}
      </SelectField>
      {columns.length > 1 ? (
        <div className="flex items-center gap-2 text-soft">
          <span className="mr-auto">Widths: {columns.map(({ span }) => span).join(' : ')}</span>
          <Button look="quiet" onClick={() => apply({ kind: 'setColumns', sectionId: section.id, columns: evenly(columns) })}>
            Even them
          </Button>
        </div>
      ) : null}
      {columns.map((column, index) => (
        <Choice
          key={column.id}
          label={columns.length > 1 ? `Column ${index + 1} stands on` : 'Its column stands on'}
          value={column.panel ?? ''}
          choices={{ '': 'Nothing', sheet: 'A sheet', tint: 'A tinted sheet', line: 'A frame', accent: 'The accent colour' }}
          onChange={(panel) => apply({ kind: 'changeColumn', columnId: column.id, changes: { panel: panel || undefined } })}
        />
      ))}
      {columns.length > 1 ? (
        <Choice
          label="Columns of unlike height"
          value={section.place ?? ''}
          choices={{ '': 'As the look has it', start: 'At the top', center: 'In the middle', end: 'At the foot', stretch: 'All as high as the highest' }}
          onChange={(place) => change({ place: place || undefined })}
        />
      ) : null}
      <Ground section={section} change={change} />
      <Choice
        label="Space above and below"
        value={section.space}
        choices={{ tight: 'Tight', normal: 'Normal', wide: 'Wide' }}
        onChange={(space) => change({ space })}
      />
      <Choice label="Alignment" value={section.align} choices={{ start: 'To the left', center: 'Centred' }} onChange={(align) => change({ align })} />
      <Choice
        label="Width of its content"
        value={section.width}
        choices={{ normal: 'Normal', narrow: 'Narrow, for reading' }}
        onChange={(width) => change({ width })}
      />
      <Check
        label="A sheet within the page, not its full width"
        checked={section.inset ?? false}
        onChange={(event) => change({ inset: event.target.checked || undefined })}
      />
      <Check
        label="Hangs over into the next section"
        checked={section.overlap ?? false}
        onChange={(event) => change({ overlap: event.target.checked || undefined })}
      />
      <Check label="At least as high as the screen" checked={section.tall ?? false} onChange={(event) => change({ tall: event.target.checked || undefined })} />
      <SizeFields page={page} id={section.id} sizes={section.sizes} isSection onChange={(sizes) => change({ sizes })} apply={apply} />
      {columns.length > 1
        ? columns.map((column, index) => (
            <details key={column.id}>
              <summary className="font-semibold cursor-pointer">
                Column {index + 1} on one screen{column.sizes ? ' · differs' : ''}
              </summary>
              <SizeFields
                page={page}
                id={column.id}
                sizes={column.sizes}
                onChange={(sizes) => apply({ kind: 'changeColumn', columnId: column.id, changes: { sizes } })}
                apply={apply}
              />
            </details>
          ))
        : null}
    </div>
  );
}

const FOCUS: Record<string, { x: number; y: number } | undefined> = {
  '': undefined,
  top: { x: 0.5, y: 0 },
  middle: { x: 0.5, y: 0.5 },
  left: { x: 0, y: 0.5 },
  right: { x: 1, y: 0.5 },
};

function Ground({ section, change }: { section: Section; change: (changes: Changes) => void }) {
  const focus = Object.entries(FOCUS).find(([, point]) => point?.x === section.focus?.x && point?.y === section.focus?.y)?.[0] ?? '';
  return (
    <>
      <Choice
        label="Ground"
        value={section.ground}
        choices={{ plain: 'Ground', tint: 'A little darker', sheet: 'A little lighter', dark: 'Main colour' }}
        onChange={(ground) => change({ ground })}
      />
      <Choice
        label="Pattern on it"
        value={section.pattern ?? ''}
        choices={{ '': 'None', ...PATTERNS }}
        onChange={(pattern) => change({ pattern: (pattern as PatternName | '') || undefined })}
      />
      <PictureChooser label="Picture behind it" fileId={section.backdropId} onChoose={(backdropId) => change({ backdropId })} />
      {section.backdropId ? (
        <>
          <Choice
            label="Ground over the picture"
            value={section.veil ?? 'none'}
            choices={{ none: 'None', light: 'Light', strong: 'Strong, for much text' }}
            onChange={(veil) => change({ veil })}
          />
          <Choice
            label="What of it stays in sight"
            value={focus}
            choices={{ '': 'The foot', top: 'The top', middle: 'The middle', left: 'The left', right: 'The right' }}
            onChange={(next) => change({ focus: FOCUS[next] })}
          />
        </>
      ) : null}
    </>
  );
}
