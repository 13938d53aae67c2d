import type { useCards } from './useCards';

/** The names of a table's columns; those of figures stand at their end. */
export function Heads({ cards, names }: { cards: ReturnType<typeof useCards>; names: ReadonlyArray<string | { figures: string }> }) {
  return (
    <thead {...cards.group} className="text-soft">
      <tr {...cards.row}>
        {names.map((name) => (
          <th
            key={typeof name === 'string' ? name : name.figures}
            scope="col"
            {...cards.header}
            className={`py-1 pr-4 last:pr-0 ${typeof name === 'string' ? 'text-left' : 'text-right'}`}
          >
            {typeof name === 'string' ? name : name.figures}
          </th>
        ))}
      </tr>
    </thead>
  );
}
