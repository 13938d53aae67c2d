import { placeholder, plainText } from '@ruta/core/elements';
import { SelectField, TextField } from '../../ui/Field';
import { Items } from './Items';
import type { SheetProps } from './sheet';

const NEW_CELL = { mark: 'yes' as const, words: [] };

export function ComparisonSheet({ element, change }: SheetProps<'comparison'>) {
  const { heads, rows } = element;
  return (
    <>
      <TextField
        label="What is compared"
        hint="For people who cannot see it."
        maxLength={160}
        value={element.caption}
        onChange={(event) => change({ caption: event.target.value })}
      />
      <SelectField
        label="Column that stands out"
        value={element.marked ?? ''}
        onChange={(event) => change({ marked: event.target.value === '' ? null : Number(event.target.value) })}
      >
        <option value="">None</option>
        {heads.map((head, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: columns have no identity of their own
          <option key={index} value={index}>
            {plainText(head)}
          </option>
        ))}
      </SelectField>
      <h3 className="font-semibold">Columns</h3>
      <Items
        items={heads.map((content, at) => ({ content, at }))}
        noun="column"
        nameOf={({ content }) => plainText(content)}
        make={() => ({ content: placeholder('Another way'), at: -1 })}
        // Its cells go where a column goes.
        onChange={(next) =>
          change({
            heads: next.map(({ content }) => content),
            rows: rows.map((row) => ({ ...row, cells: next.map(({ at }) => row.cells[at] ?? NEW_CELL) })),
            marked: element.marked === null || element.marked >= next.length ? null : element.marked,
          })
        }
        most={5}
      />
      <h3 className="font-semibold">Rows</h3>
      <Items
        items={rows}
        noun="row"
        nameOf={({ label }) => plainText(label)}
        make={() => ({ label: placeholder('One more difference'), cells: heads.map(() => NEW_CELL) })}
        onChange={(next) => change({ rows: next })}
        most={40}
      >
        {(row, set) =>
          heads.map((head, column) => {
            const cell = row.cells[column] ?? NEW_CELL;
            return (
              <SelectField
                // biome-ignore lint/suspicious/noArrayIndexKey: columns have no identity of their own
                key={column}
                label={plainText(head)}
                value={cell.mark}
                onChange={(event) => {
                  const mark = event.target.value as typeof cell.mark;
                  const cells = heads.map((_, index) => row.cells[index] ?? NEW_CELL);
                  set({ cells: cells.with(column, { mark, words: mark === 'words' && cell.words.length === 0 ? placeholder('In words') : cell.words }) });
                }}
              >
                <option value="yes">Yes</option>
                <option value="no">No</option>
                <option value="words">Words, typed on the page</option>
              </SelectField>
            );
          })
        }
      </Items>
    </>
  );
}
