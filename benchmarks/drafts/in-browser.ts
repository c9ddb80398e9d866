/** How soon a draft stands on the bench, in the browser. */
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM_ARGS, chromiumPath } from '../../scripts/chromium.ts';
import { createApp } from '../../service/app.ts';
import { largeReport } from './large-report.ts';

const RUNS = 3;

/** Milliseconds from the drop of a report to its draft and its table in sight; the median of three. */
export async function draftTimes(rows: number): Promise<number> {
  const report = Buffer.from(largeReport(rows)).toString('base64');
  const server = createApp(join(import.meta.dirname, '..', '..', 'dist', 'web')).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const browser = await chromium.launch({ executablePath: chromiumPath(), args: CHROMIUM_ARGS });
  const times: number[] = [];
  for (let run = 0; run < RUNS; run++) {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
    // As long as it takes to find the file on the desktop.
    await page.waitForTimeout(2500);
    const data = await page.evaluateHandle((text) => {
      const bytes = Uint8Array.from(atob(text), (character) => character.charCodeAt(0));
      const transfer = new DataTransfer();
      transfer.items.add(new File([bytes], 'returns.csv'));
      return transfer;
    }, report);
    const started = performance.now();
    await page.dispatchEvent('main', 'drop', { dataTransfer: data });
    await page.getByText(/^drafted · [1-9]/).waitFor({ timeout: 120_000 });
    await page.getByRole('region', { name: 'Draft' }).waitFor();
    times.push(performance.now() - started);
    await page.context().close();
  }
  await browser.close();
  server.close();
  return times.sort((a, b) => a - b)[Math.floor(RUNS / 2)]!;
}
