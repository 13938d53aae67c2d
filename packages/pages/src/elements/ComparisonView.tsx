import type { ElementOf } from '@ruta/core/elements';
import { WordsView } from '../WordsView';

const MARKS = { yes: { sign: '✓', words: 'yes' }, no: { sign: '–', words: 'no' } };

export function ComparisonView({ element }: { element: ElementOf<'comparison'> }) {
  const marked = (column: number) => (element.marked === column ? 'marked' : undefined);
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keyboard
    <section className="comparison" aria-label={element.caption || 'Comparison'} tabIndex={0}>
      <table>
        <thead>
          <tr>
            <td />
            {element.heads.map((head, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: columns have no identity of their own
              <th key={index} scope="col" className={marked(index)}>
                <WordsView words={head} elementId={element.id} path={['heads', index]} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {element.rows.map((row, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows have no identity of their own
            <tr key={index}>
              <th scope="row">
                <WordsView words={row.label} elementId={element.id} path={['rows', index, 'label']} />
              </th>
              {element.heads.map((_, column) => {
                const cell = row.cells[column];
                return (
                  // biome-ignore lint/suspicious/noArrayIndexKey: columns have no identity of their own
                  <td key={column} className={marked(column)}>
                    {cell?.mark === 'words' ? (
                      <WordsView words={cell.words} elementId={element.id} path={['rows', index, 'cells', column, 'words']} />
                    ) : (
                      <>
                        <span aria-hidden="true" className={`cell-${cell?.mark ?? 'no'}`}>
                          {MARKS[cell?.mark ?? 'no'].sign}
                        </span>
                        <span className="unseen">{MARKS[cell?.mark ?? 'no'].words}</span>
                      </>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
