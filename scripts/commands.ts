// The commands of `npm run -s ruta`, without the process around them.
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { BundleSchema } from '@ruta/core/bundles';
import { ProductInputSchema } from '@ruta/core/catalog';
import { CodeSchema } from '@ruta/core/codes';
import {
  ExperimentPlanInputSchema,
  ExperimentPlanSchema,
  ExperimentResultInputSchema,
  ExperimentResultSchema,
  experimentResult,
  planExperiment,
} from '@ruta/core/experiments';
import { type ForecastInput, ForecastInputSchema, ForecastSchema, forecast } from '@ruta/core/forecast';
import { ProductsFileSchema } from '@ruta/core/formats';
import { WalkInputSchema, WalkSchema, walkFunnel } from '@ruta/core/funnel';
import { RefundInputSchema, RefundSchema, refund } from '@ruta/core/orders';
import { PageDocumentSchema } from '@ruta/core/page';
import { type CommissionInput, CommissionInputSchema, CommissionSchema, commission } from '@ruta/core/partners';
import { ScheduleInputSchema, ScheduleSchema, schedule } from '@ruta/core/plans';
import { type QuoteInput, QuoteInputSchema, QuoteSchema, quote, ShippingTableSchema, TaxTableSchema } from '@ruta/core/pricing';
import { DataLayerEntrySchema } from '@ruta/core/tracking';
import { WebhookBodySchema } from '@ruta/core/webhooks';
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
  commission: { input: CommissionInputSchema, output: CommissionSchema, run: (input: CommissionInput) => commission(input) },
  'experiment plan': { input: ExperimentPlanInputSchema, output: ExperimentPlanSchema, run: planExperiment },
  'experiment result': { input: ExperimentResultInputSchema, output: ExperimentResultSchema, run: experimentResult },
  forecast: { input: ForecastInputSchema, output: ForecastSchema, run: (input: ForecastInput) => forecast(input) },
};

/** What a command printed, and the status it ends with: 0, or 2 for input it does not take. */
export interface CommandResult {
  status: 0 | 2;
  text: string;
}

const refused = (text: string): CommandResult => ({ status: 2, text });

/** Runs a part of the core on the text of a JSON document. */
export function runCommand(name: string, input: string): CommandResult {
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command) return refused(`Say one of: ${[...Object.keys(COMMANDS), 'schemas'].join(', ')}. Input is JSON on standard input.`);
  let given: unknown;
  try {
    given = JSON.parse(input);
  } catch {
    return refused('Standard input is not valid JSON.');
  }
  const parsed = command.input.safeParse(given);
  if (!parsed.success) return refused(parsed.error.issues.map((issue) => `${issue.path.join('.') || 'input'}: ${issue.message}`).join('\n'));
  try {
    return { status: 0, text: JSON.stringify(command.run(parsed.data as never), null, 2) };
  } catch (error) {
    return refused((error as Error).message);
  }
}

/** Writes the JSON Schema of every command's input and output to docs/schemas/, and docs/files.md. */
export function writeSchemas(): void {
  const folder = path.resolve(import.meta.dirname, '../docs/schemas');
  mkdirSync(folder, { recursive: true });
  const write = (name: string, schema: z.ZodType, io: 'input' | 'output') =>
    writeFileSync(
      path.join(folder, `${name}.schema.json`),
      `${JSON.stringify(z.toJSONSchema(schema, { io, target: 'draft-2020-12', unrepresentable: 'any' }), null, 2)}\n`,
    );
  for (const [name, command] of Object.entries(COMMANDS)) {
    const file = name.replaceAll(' ', '-');
    write(`${file}-input`, command.input, 'input');
    write(`${file}-output`, command.output, 'output');
  }
  write('page', PageDocumentSchema, 'input');
  write('bundle', BundleSchema, 'input');
  write('webhook', WebhookBodySchema, 'output');
  write('data-layer', DataLayerEntrySchema, 'output');
  write('product', ProductInputSchema, 'input');
  write('products-file', ProductsFileSchema, 'input');
  write('code', CodeSchema, 'input');
  write('tax-table', TaxTableSchema, 'input');
  write('shipping-table', ShippingTableSchema, 'input');
  writeFileSync(path.resolve(folder, '../files.md'), filesGuide());
}
