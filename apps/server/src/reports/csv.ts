import { writeCsv } from '@ruta/core/formats';
import { toDecimal } from '@ruta/core/money';
import { DIMENSIONS, type Figures, figureOf, MEASURES, type Measure, type Report } from '@ruta/core/reports';

/** A report as a file: one line a row with its figures, of the earlier period too if there is one, and the total last. */
export function reportCsv({ by, rows, total, totalBefore, earlier, currency, from, to }: Report): string {
  const { one, measures } = DIMENSIONS[by];
  const text = (figures: Figures, measure: Measure): string => {
    const value = figureOf(figures, measure);
    if (value === null) return '';
    switch (MEASURES[measure].kind) {
      case 'money':
        return toDecimal(Math.round(value), currency);
      case 'ratio':
        return value.toFixed(4);
      default:
        return String(value);
    }
  };
  const cells = (figures: Figures, before: Figures | undefined) => [
    ...measures.map((measure) => text(figures, measure)),
    ...(earlier ? measures.map((measure) => text(before ?? {}, measure)) : []),
  ];
  const heads = [
    one,
    'Detail',
    ...measures.map((measure) => MEASURES[measure].name),
    ...(earlier ? measures.map((measure) => `${MEASURES[measure].name}, ${earlier.from} to ${earlier.to}`) : []),
  ];
  return writeCsv(heads, [
    ...rows.map(({ name, detail, figures, before }) => [name, detail ?? '', ...cells(figures, before)]),
    [`Total ${from} to ${to}`, '', ...cells(total, totalBefore)],
  ]);
}
