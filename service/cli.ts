import { readFileSync } from 'node:fs';
import { rimefield } from './commands.ts';

process.exitCode = await rimefield(process.argv.slice(2), {
  input: () => readFileSync(0),
  output: (bytes) => process.stdout.write(bytes),
  error: (text) => process.stderr.write(text),
  terminal: process.stderr.isTTY,
});
