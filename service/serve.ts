import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { isLoopback } from './access.ts';
import { createApp } from './app.ts';
import { Trouble } from './command-files.ts';
import { DropFolder } from './folder/drop-folder.ts';
import { Watcher } from './folder/watcher.ts';
import { packageRoot } from './package-root.ts';

export interface ServeChoices {
  port: number;
  /** Loopback only, unless told otherwise: then whoever comes needs a token. */
  host: string;
  /** The drop folder; it is made where it is missing. */
  folder: string;
  token: string | undefined;
}

/** What is asked for by PORT, HOST, RIMEFIELD_FOLDER and RIMEFIELD_TOKEN, and by options where they are given. */
export function serveChoices(given: { port?: string; host?: string; folder?: string }): ServeChoices {
  const port = Number(given.port ?? process.env['PORT'] ?? 4173);
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new Trouble(`A port is a number from 0 to 65535, not ${given.port ?? process.env['PORT']}.`);
  return {
    port,
    host: given.host ?? process.env['HOST'] ?? '127.0.0.1',
    folder: resolve(given.folder ?? process.env['RIMEFIELD_FOLDER'] ?? 'drop'),
    token: process.env['RIMEFIELD_TOKEN'] || undefined,
  };
}

/**
 * Serves the built application and watches the drop folder, until the process is asked to end.
 * @param say told where it is
 * @throws Trouble when nothing is built, or the port is taken
 */
export function serve({ port, host, folder, token: own }: ServeChoices, say: (text: string) => void): Promise<void> {
  const token = own ?? (isLoopback(host) ? undefined : randomBytes(18).toString('base64url'));
  const pages = join(packageRoot(), 'dist', 'web');
  if (!existsSync(join(pages, 'index.html')))
    throw new Trouble('The pages are not built yet: run npm run build first.');
  const watcher = watch(folder, say);
  return new Promise((ended, refused) => {
    const server = createApp(pages, { token, watcher }).listen(port, host, (error?: Error) => {
      if (error !== undefined) {
        refused(new Trouble(`It could not be served on port ${port}: ${error.message}. Choose a free one.`));
        return;
      }
      const address = server.address();
      const taken = typeof address === 'object' && address !== null ? address.port : port;
      const place = `http://${host.includes(':') ? `[${host}]` : host}:${taken}/`;
      say(`Rimefield is at ${place}${token === undefined ? '' : `?token=${token}`} (stop it with Ctrl C)\n`);
      if (watcher !== undefined) say(`Reports put into ${watcher.folder.in} arrive there.\n`);
      watcher?.start();
    });
    // Whoever sends nothing for a while is not waited for.
    server.requestTimeout = 10 * 60_000;
    server.headersTimeout = 20_000;
    for (const signal of ['SIGINT', 'SIGTERM'] as const)
      process.on(signal, () => {
        server.closeAllConnections();
        server.close();
        void Promise.resolve(watcher?.stop()).then(() => ended());
      });
  });
}

function watch(path: string, say: (text: string) => void): Watcher | undefined {
  try {
    return new Watcher(new DropFolder(path));
  } catch (error) {
    say(`There is no drop folder, since ${path} cannot be used: ${(error as Error).message}\n`);
    return undefined;
  }
}
