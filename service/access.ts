import { createHash, timingSafeEqual } from 'node:crypto';
import { parseCookie } from 'cookie';
import type { NextFunction, Request, Response } from 'express';

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);
const COOKIE = 'rimefield-token';

/** Whether an address is reached from this machine only. */
export function isLoopback(host: string): boolean {
  return host === '127.0.0.1' || host === 'localhost' || host === '::1';
}

/**
 * Who may come in. On loopback without a token: whoever names this host, so that a page of another host that was made
 * to point here (DNS rebinding) does not. With a token: whoever brings it, in the address once, then in a cookie, or
 * as a bearer token (RFC 6750).
 */
export function access(token: string | undefined) {
  return (request: Request, response: Response, next: NextFunction): void => {
    if (token === undefined) {
      const host = (request.headers.host ?? '').replace(/:\d+$/, '').toLowerCase();
      if (LOOPBACK.has(host)) next();
      else response.status(403).json({ error: 'This server answers to its own address only.' });
      return;
    }
    const given = request.query['token'];
    if (typeof given === 'string' && same(given, token) && request.method === 'GET') {
      response.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/' });
      // More than one slash at the front would name another host.
      response.redirect(303, request.path.replace(/^[/\\]+/, '/'));
      return;
    }
    if (same(bearerOf(request) ?? cookieOf(request) ?? '', token)) next();
    else
      response
        .status(401)
        .json({ error: 'This server asks for a token: open the address that it printed when it was started.' });
  };
}

/** Pages of other hosts may not change anything here, whatever cookies the browser sends along. */
export function sameOrigin(request: Request, response: Response, next: NextFunction): void {
  const { origin, host } = request.headers;
  const site = request.headers['sec-fetch-site'];
  const foreign =
    (origin !== undefined && hostOf(origin) !== host) ||
    (site !== undefined && site !== 'same-origin' && site !== 'none');
  if (request.method === 'GET' || request.method === 'HEAD' || !foreign) next();
  else response.status(403).json({ error: 'Pages of other hosts may not change anything here.' });
}

/** Compared in a time that says nothing of where they differ. */
function same(given: string, token: string): boolean {
  const digest = (text: string) => createHash('sha256').update(text).digest();
  return timingSafeEqual(digest(given), digest(token));
}

function bearerOf(request: Request): string | undefined {
  return /^Bearer (.+)$/i.exec(request.headers.authorization ?? '')?.[1];
}

function cookieOf(request: Request): string | undefined {
  return parseCookie(request.headers.cookie ?? '')[COOKIE];
}

function hostOf(origin: string): string | undefined {
  return URL.canParse(origin) ? new URL(origin).host : undefined;
}
