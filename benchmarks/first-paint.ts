/** What a browser loads before the shelf is in sight, and how soon that is. */
import { readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import { CHROMIUM_ARGS, chromiumPath } from '../scripts/chromium.ts';
import { createApp } from '../service/app.ts';

const TIMES = 7;

export interface FirstPaint {
  /** The scripts without which nothing can be drawn, packed by gzip, in bytes. */
  firstBundleBytes: number;
  /** All scripts that were there when the shelf was, as they are run, in bytes. */
  scriptBytes: number;
  /** Milliseconds to the first contentful paint (W3C Paint Timing), the median of several visits with nothing kept. */
  paintMs: number;
  /** Milliseconds until the demo's jobs are there to be opened, likewise. */
  readyMs: number;
}

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? Number.NaN;

/** Those that the page itself names, and so are waited for. */
function firstBundleBytes(webRoot: string): number {
  const scripts = readFileSync(join(webRoot, 'index.html'), 'utf8').matchAll(/(?:src|href)="\/(assets\/[^"]+\.js)"/g);
  return [...scripts].reduce(
    (sum, [, name]) => sum + gzipSync(readFileSync(join(webRoot, name!)), { level: 9 }).length,
    0,
  );
}

export async function measureFirstPaint(webRoot: string): Promise<FirstPaint> {
  const server = createApp(webRoot).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const browser = await chromium.launch({ executablePath: chromiumPath(), args: CHROMIUM_ARGS });
  const paints: number[] = [];
  const readies: number[] = [];
  let scriptBytes = 0;
  for (let k = 0; k < TIMES; k++) {
    const context = await browser.newContext({ serviceWorkers: 'block', viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
    await page.getByRole('button', { name: /Quay returns/ }).waitFor();
    const found = await page.evaluate(() => ({
      ready: performance.now(),
      paint: performance.getEntriesByName('first-contentful-paint')[0]?.startTime,
      bytes: (performance.getEntriesByType('resource') as PerformanceResourceTiming[])
        .filter((one) => one.name.endsWith('.js'))
        .reduce((sum, one) => sum + one.decodedBodySize, 0),
    }));
    // The browser may tell of the paint a little later.
    if (found.paint !== undefined) paints.push(found.paint);
    readies.push(found.ready);
    scriptBytes = found.bytes;
    await context.close();
  }
  await browser.close();
  server.close();
  return {
    firstBundleBytes: firstBundleBytes(webRoot),
    scriptBytes,
    paintMs: median(paints),
    readyMs: median(readies),
  };
}
