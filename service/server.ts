import { randomBytes } from 'node:crypto';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { isLoopback } from './access.ts';
import { createApp } from './app.ts';
import { DropFolder } from './folder/drop-folder.ts';
import { Watcher } from './folder/watcher.ts';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const port = Number(process.env.PORT ?? 4173);
// Loopback only, unless told otherwise: then whoever comes needs a token.
const host = process.env.HOST ?? '127.0.0.1';
const token = process.env.RIMEFIELD_TOKEN || (isLoopback(host) ? undefined : randomBytes(18).toString('base64url'));
const watcher = watch(resolve(process.env.RIMEFIELD_FOLDER ?? join(root, 'drop')));

const server = createApp(join(root, 'dist', 'web'), { token, watcher }).listen(port, host, (error?: Error) => {
  if (error !== undefined) {
    process.stderr.write(`Rimefield could not be served on port ${port}: ${error.message}. Set PORT to a free one.\n`);
    process.exit(1);
  }
  const place = `http://${host.includes(':') ? `[${host}]` : host}:${port}/`;
  process.stdout.write(
    `Rimefield is at ${place}${token === undefined ? '' : `?token=${token}`} (stop it with Ctrl C)\n`,
  );
  if (watcher !== undefined) process.stdout.write(`Reports put into ${watcher.folder.in} arrive there.\n`);
  watcher?.start();
});
// Whoever sends nothing for a while is not waited for.
server.requestTimeout = 10 * 60_000;
server.headersTimeout = 20_000;

for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    server.closeAllConnections();
    server.close();
    void Promise.resolve(watcher?.stop()).then(() => process.exit(0));
  });

function watch(path: string): Watcher | undefined {
  try {
    return new Watcher(new DropFolder(path));
  } catch (error) {
    process.stderr.write(`There is no drop folder, since ${path} cannot be used: ${(error as Error).message}\n`);
    return undefined;
  }
}
