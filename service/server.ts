import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createApp } from './app.ts';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const port = Number(process.env.PORT ?? 4173);

// Loopback only: nobody else on the network can reach it.
const server = createApp(join(root, 'dist', 'web')).listen(port, '127.0.0.1', (error?: Error) => {
  if (error !== undefined) {
    process.stderr.write(`Rimefield could not be served on port ${port}: ${error.message}. Set PORT to a free one.\n`);
    process.exit(1);
  }
  process.stdout.write(`Rimefield is at http://127.0.0.1:${port}/ (stop it with Ctrl C)\n`);
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => server.close(() => process.exit(0)));
