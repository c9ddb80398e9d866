import { join } from 'node:path';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { access, sameOrigin } from './access.ts';
import { folderApi } from './folder/api.ts';
import type { Watcher } from './folder/watcher.ts';

/** Everything from this host and nothing from others; no inline script. Styles are set by the interface library. */
const headers = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      // WebAssembly is compiled, by the library that writes SQLite; scripts are not.
      scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", 'data:', 'blob:'],
      workerSrc: ["'self'"],
      connectSrc: ["'self'"],
      manifestSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'none'"],
      formAction: ["'none'"],
      frameAncestors: ["'none'"],
    },
  },
  // Isolation gives the worker shared memory, by which a running step can be stopped.
  crossOriginEmbedderPolicy: { policy: 'require-corp' },
  // It is served over HTTP; whoever puts HTTPS in front of it says so there.
  strictTransportSecurity: false,
});

/** What a server offers beside the application itself. */
export interface AppChoices {
  /** Asked of everyone who comes; needed when others than this machine can. */
  token?: string;
  watcher?: Watcher;
}

/** The built application as static files, with headers that keep it to itself, and the drop folder under /api. */
export function createApp(webRoot: string, { token, watcher }: AppChoices = {}): Express {
  const app = express();
  app.use(headers);
  app.use(access(token));
  if (watcher !== undefined) app.use('/api', sameOrigin, folderApi(watcher));
  // Names of built files carry a hash of what is in them, so they never change.
  app.use(
    '/assets',
    express.static(join(webRoot, 'assets'), { immutable: true, maxAge: '1y', index: false, fallthrough: false }),
  );
  app.use(express.static(webRoot, { index: false, maxAge: 0 }));
  // Paths of the application itself are answered with its page; whatever has an ending is a file that is not there.
  app.get(/^\/(?!.*\.[^/]+$).*/, (_request, response) => {
    response.set('Cache-Control', 'no-cache').sendFile('index.html', { root: webRoot });
  });
  // Errors are said without the paths of this machine, which the framework would print.
  app.use((error: Error & { status?: number }, _request: Request, response: Response, next: NextFunction) => {
    if (response.headersSent) return next(error);
    const status = error.status !== undefined && error.status >= 400 && error.status < 500 ? error.status : 500;
    if (status === 500) process.stderr.write(`Rimefield: ${error.stack ?? error.message}\n`);
    response.status(status).json({
      error: status === 404 ? 'There is nothing at this address.' : 'The server could not answer this.',
    });
  });
  return app;
}
