import { join } from 'node:path';
import express, { type Express } from 'express';

/** Everything from this host and nothing from others; no inline script. Styles are set by the interface library. */
const POLICY = [
  "default-src 'self'",
  // WebAssembly is compiled, by the library that writes SQLite; scripts are not.
  "script-src 'self' 'wasm-unsafe-eval'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' data: blob:",
  "worker-src 'self'",
  "connect-src 'self'",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'none'",
  "frame-ancestors 'none'",
].join('; ');

/** The built application as static files, with headers that keep it to itself. */
export function createApp(webRoot: string): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((_request, response, next) => {
    response.set({
      'Content-Security-Policy': POLICY,
      // Isolation gives the worker shared memory, by which a running step can be stopped.
      'Cross-Origin-Opener-Policy': 'same-origin',
      'Cross-Origin-Embedder-Policy': 'require-corp',
      'Cross-Origin-Resource-Policy': 'same-origin',
      'Referrer-Policy': 'no-referrer',
      'X-Content-Type-Options': 'nosniff',
    });
    next();
  });
  // Names of built files carry a hash of what is in them, so they never change.
  app.use(
    '/assets',
    express.static(join(webRoot, 'assets'), { immutable: true, maxAge: '1y', index: false, fallthrough: false }),
  );
  app.use(express.static(webRoot, { index: false, maxAge: 0 }));
  // Paths of the application itself are answered with its page; whatever has an ending is a file that is not there.
  app.get(/^\/(?!.*\.[^/]+$).*/, (_request, response) => {
    response.set('Cache-Control', 'no-cache').sendFile(join(webRoot, 'index.html'));
  });
  return app;
}
