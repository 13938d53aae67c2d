import { CODE_FILE_COLUMNS, PRODUCT_FILE_COLUMNS, TAX_FILE_COLUMNS } from '@ruta/core/formats';

const table = (columns: ReadonlyArray<{ name: string; says: string }>) =>
  ['| column | what it holds |', '|---|---|', ...columns.map(({ name, says }) => `| \`${name}\` | ${says} |`)].join('\n');

/** The guide to files that go in and out, made from the columns that the code reads and writes. */
export function filesGuide(): string {
  return `# Files in and out

All CSV files are UTF-8 with a header; the separator may be a comma, a semicolon or a tab; cells with line breaks stand in quotes. Amounts are plain decimals (\`24\`, \`24.50\` or \`24,50\`) in the shop's currency, never with a mark for thousands. Times are in the shop's zone, \`2026-03-31 20:00\`. A cell that a spreadsheet would run as a formula is written with an apostrophe before it, and read without. Columns may stand in any order and be left out; what is not in a file stays as it is. A file is brought in whole or not at all: what does not fit is told first, up to 500 places with their lines. A file has at most 20 MB, 200,000 lines and 20,000 products (codes and ad spend: 5 MB); a large one says how far it is and can be stopped until it is written. The tax class of electronic publications is \`electronic\` in files; \`digital\`, as earlier files have it, is understood.

## Products (Catalog, Files)

One row is one price. Rows with the same \`product_id\` are one product; without an id, rows with the same name and label. Columns of the product and the edition repeat on each of their rows.

${table(PRODUCT_FILE_COLUMNS)}

JSON files hold everything, pictures, bundles and confirmations too: [schemas/products-file.schema.json](schemas/products-file.schema.json). Amounts there are minor units.

## Discount codes (Catalog, Discount codes)

${table(CODE_FILE_COLUMNS)}

## Tax rates (Settings, Tax rates)

The file takes the place of the whole table.

${table(TAX_FILE_COLUMNS)}
`;
}
