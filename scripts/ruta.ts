// `npm run -s ruta -- <command>`: runs a part of the core on JSON from standard input, without a server.
// `schemas` writes the JSON Schema of every command's input and output to docs/schemas/, and docs/files.md.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  CodeSchema,
  PageDocumentSchema,
  ProductInputSchema,
  ProductsFileSchema,
  type QuoteInput,
  QuoteInputSchema,
  QuoteSchema,
  quote,
  RefundInputSchema,
  RefundSchema,
  refund,
  ScheduleInputSchema,
  ScheduleSchema,
  ShippingTableSchema,
  schedule,
  TaxTableSchema,
  WalkInputSchema,
  WalkSchema,
  walkFunnel,
} from '@ruta/core';
import { z } from 'zod';
import { filesGuide } from './columns';

interface Command {
  input: z.ZodType;
  output: z.ZodType;
  run: (input: never) => unknown;
}

const COMMANDS: Record<string, Command> = {
  quote: { input: QuoteInputSchema, output: QuoteSchema, run: (input: QuoteInput) => quote(input) },
  billing: { input: ScheduleInputSchema, output: ScheduleSchema, run: schedule },
  refund: { input: RefundInputSchema, output: RefundSchema, run: refund },
  route: { input: WalkInputSchema, output: WalkSchema, run: walkFunnel },
};

function refuse(message: string): never {
  console.error(message);
  process.exit(2);
}

function writeSchemas(): void {
  const folder = path.resolve(import.meta.dirname, '../docs/schemas');
  mkdirSync(folder, { recursive: true });
  const write = (name: string, schema: z.ZodType, io: 'input' | 'output') =>
    writeFileSync(
      path.join(folder, `${name}.schema.json`),
      `${JSON.stringify(z.toJSONSchema(schema, { io, target: 'draft-2020-12', unrepresentable: 'any' }), null, 2)}\n`,
    );
  for (const [name, command] of Object.entries(COMMANDS)) {
    write(`${name}-input`, command.input, 'input');
    write(`${name}-output`, command.output, 'output');
  }
  write('page', PageDocumentSchema, 'input');
  write('product', ProductInputSchema, 'input');
  write('products-file', ProductsFileSchema, 'input');
  write('code', CodeSchema, 'input');
  write('tax-table', TaxTableSchema, 'input');
  write('shipping-table', ShippingTableSchema, 'input');
  writeFileSync(path.resolve(folder, '../files.md'), filesGuide());
}

const name = process.argv[2] ?? '';
if (name === 'schemas') {
  writeSchemas();
  process.exit(0);
}
const command = COMMANDS[name];
if (!command) refuse(`Say one of: ${[...Object.keys(COMMANDS), 'schemas'].join(', ')}. Input is JSON on standard input.`);
let given: unknown;
try {
  given = JSON.parse(readFileSync(0, 'utf8'));
} catch {
  refuse('Standard input is not valid JSON.');
}
const parsed = command.input.safeParse(given);
if (!parsed.success) refuse(parsed.error.issues.map((issue) => `${issue.path.join('.') || 'input'}: ${issue.message}`).join('\n'));
try {
  console.log(JSON.stringify(command.run(parsed.data as never), null, 2));
} catch (error) {
  refuse((error as Error).message);
}
