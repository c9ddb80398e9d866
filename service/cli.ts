import { readFileSync } from 'node:fs';
import { rimefield } from './commands.ts';

// Whoever read the output wants no more of it, as when it is piped into head.
process.stdout.on('error', (error: Error & { code?: string }) => {
  if (error.code === 'EPIPE') process.exit();
  throw error;
});

const code = await rimefield(process.argv.slice(2), {
  input: () => readFileSync(0),
  output: (bytes) => process.stdout.write(bytes),
  error: (text) => process.stderr.write(text),
  terminal: process.stderr.isTTY,
});
// What is still open, as a connection that waits, keeps nobody waiting.
if (process.argv[2] === 'serve') process.exit(code);
process.exitCode = code;
