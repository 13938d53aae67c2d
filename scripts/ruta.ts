// `npm run -s ruta -- <command>`, for example `quote` or `experiment plan`: runs a part of the core on JSON from standard input, without a server.
// `schemas` writes the JSON Schema of every command's input and output to docs/schemas/, and docs/files.md.
import { readFileSync } from 'node:fs';
import { speakPlainly } from '@ruta/core/words';
import { runCommand, writeSchemas } from './commands';

speakPlainly();
const name = process.argv.slice(2).join(' ');
if (name === 'schemas') {
  writeSchemas();
} else {
  // Without a command nobody has written anything to read.
  const { status, text } = runCommand(name, name === '' ? '' : readFileSync(0, 'utf8'));
  (status === 0 ? console.log : console.error)(text);
  process.exitCode = status;
}
