import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { createApp } from './app.ts';

describe('the server', () => {
  let address = '';
  let close: () => void;
  beforeAll(async () => {
    // In a hidden folder, as where packages are kept that were not installed.
    const root = join(mkdtempSync(join(tmpdir(), 'rimefield-web-')), '.kept');
    mkdirSync(join(root, 'assets'), { recursive: true });
    writeFileSync(join(root, 'index.html'), '<!doctype html><title>Rimefield</title>');
    writeFileSync(join(root, 'assets', 'a-1.js'), 'export {};');
    await new Promise<void>((resolve) => {
      const server = createApp(root).listen(0, '127.0.0.1', () => {
        address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
        resolve();
      });
      close = () => server.close();
    });
  });
  afterAll(() => close());

  test('forbids inline script and anything from other hosts, and isolates the page', async () => {
    const { headers } = await fetch(address);
    const policy = headers.get('content-security-policy')!;
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval';");
    expect(policy).not.toMatch(/https?:/);
    expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
    expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
    expect(headers.get('x-powered-by')).toBeNull();
  });

  test('answers paths of the application with its page, and files that are not there with 404', async () => {
    expect(await (await fetch(`${address}/jobs/abc`)).text()).toContain('Rimefield');
    expect((await fetch(`${address}/missing.js`)).status).toBe(404);
    expect((await fetch(`${address}/assets/missing.js`)).status).toBe(404);
  });

  test('keeps hashed files for good and the page not at all', async () => {
    expect((await fetch(`${address}/assets/a-1.js`)).headers.get('cache-control')).toContain('immutable');
    expect((await fetch(address)).headers.get('cache-control')).toBe('no-cache');
  });

  test('says what went wrong without the paths of the machine', async () => {
    for (const path of ['/assets/missing.js', '/assets/%E0%A4%A']) {
      const answer = await fetch(address + path);
      expect(answer.status).toBeGreaterThanOrEqual(400);
      expect(Object.keys((await answer.json()) as object)).toEqual(['error']);
    }
  });

  test('gives nothing from outside its folder', async () => {
    for (const path of ['/assets/..%2f..%2fpackage.json', '/%2e%2e/%2e%2e/etc/passwd']) {
      const answer = await fetch(address + path);
      expect([400, 403, 404].includes(answer.status) || (await answer.text()).includes('<title>Rimefield')).toBe(true);
    }
  });
});
