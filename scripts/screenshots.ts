/** Takes the pictures of docs/screenshots/ from the demo data. Needs a built application: npm run build. */
import { rmSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium, type Page } from '@playwright/test';
import { laterReports } from '../demo/later.ts';
import { createApp } from '../service/app.ts';
import { DropFolder } from '../service/folder/drop-folder.ts';
import { Watcher } from '../service/folder/watcher.ts';
import { CHROMIUM_ARGS, chromiumPath } from './chromium.ts';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
// What later quarters look like stands in its own arrivals folder.
const drop = join(tmpdir(), 'skerrow-drop');
rmSync(drop, { recursive: true, force: true });
const watcher = new Watcher(new DropFolder(drop), { every: 200, steady: 200 });
watcher.start();
const server = createApp(join(root, 'dist', 'web'), { watcher }).listen(0, '127.0.0.1');
await new Promise((resolve) => server.once('listening', resolve));
const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
const browser = await chromium.launch({ executablePath: chromiumPath(), args: CHROMIUM_ARGS });

const later = (change: string) => {
  const { made } = laterReports().find((one) => one.demo === 'quay-returns' && one.change === change)!;
  return { name: 'quay-returns-q3.xlsx', mimeType: 'application/octet-stream', buffer: Buffer.from(made.bytes) };
};

async function picture(
  name: string,
  colorScheme: 'light' | 'dark',
  steps: (page: Page) => Promise<void>,
): Promise<void> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme });
  const page = await context.newPage();
  // A set clock keeps 'saved 14:02' the same in every picture.
  await page.clock.setFixedTime(new Date('2031-07-04T14:02:00'));
  await page.goto(address);
  await steps(page);
  await page.evaluate(() => document.fonts.ready);
  await page.waitForTimeout(400);
  await page.screenshot({ path: join(root, 'docs', 'screenshots', `${name}.png`) });
  await context.close();
}

async function bench(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Quay returns, quarterly' }).click();
  await page.getByText('after step 10').waitFor();
  await page.getByRole('region', { name: 'Method' }).getByRole('listitem').nth(7).click();
  await page.getByText('after step 8').waitFor();
  await page.getByRole('columnheader').filter({ hasText: 'Month' }).click();
  await page.getByRole('grid', { name: 'Tidy table' }).locator('[data-cell="4:4"]').hover();
  await page.getByText('came from Hask!D8').waitFor();
}

await picture('recognized', 'light', async (page) => {
  await bench(page);
  await page.waitForTimeout(1500);
  await page.getByRole('link', { name: 'Rimefield' }).click();
  await page.getByRole('link', { name: 'Quay returns, quarterly' }).waitFor();
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'New job from a file' }).click(),
  ]);
  await chooser.setFiles(later('other months'));
  await page.getByRole('region', { name: 'Recognized report' }).waitFor();
});

await picture('shelf', 'light', async (page) => {
  writeFileSync(join(drop, 'in', 'quay-returns-q3.xlsx'), later('other months').buffer);
  await bench(page);
  // The shelf says how the last run stands, which the tally tells a little later.
  await page.getByText('623 of 623 cells').waitFor();
  await page.getByRole('link', { name: 'Rimefield' }).click();
  await page.getByRole('link', { name: 'Quay returns, quarterly' }).waitFor();
  await page.getByRole('button', { name: 'Run Quay returns, quarterly with it' }).waitFor();
  await page.waitForTimeout(1000);
});
await picture('bench', 'light', bench);
await picture('bench-dark', 'dark', bench);
await picture('bench-blank', 'light', async (page) => {
  await bench(page);
  const slot = page.getByRole('button', { name: /^Rows to set aside:/ }).last();
  // The rule of a step opens where the focus is.
  await slot.focus();
  await slot.click();
  await page.getByRole('dialog').waitFor();
});

/** The report of a demo on its own, as it is dropped: its draft stands. */
async function report(page: Page, file: string): Promise<void> {
  await page.getByRole('button', { name: `Begin with ${file} alone` }).click();
  await page.getByText(/^drafted · [1-9]/).waitFor();
  await page.getByRole('button', { name: /^Keep all/ }).waitFor();
  await page.getByRole('link', { name: /cells/ }).waitFor();
}
await picture('draft', 'light', async (page) => {
  await report(page, 'quay-returns-q2.xlsx');
  await page.getByRole('listitem', { name: 'Step 5, drafted' }).hover();
});
await picture('findings', 'light', async (page) => {
  await page.getByRole('button', { name: 'Booking export' }).click();
  await page.getByText(/after step \d ·/).waitFor();
  await page
    .getByRole('region', { name: 'Method' })
    .getByRole('listitem')
    .nth(3)
    .getByRole('button', { name: 'Remove step 4' })
    .click();
  await page
    .getByRole('region', { name: 'Findings' })
    .getByRole('button', { name: /every|Every/ })
    .first()
    .hover();
  await page.getByText('not taken yet').waitFor();
});
await picture('wanted', 'light', async (page) => {
  await report(page, 'quay-returns-q2.xlsx');
  await page.getByRole('button', { name: 'Show the row you want' }).click();
  const rows = [
    ['Port', 'Route', 'Sailing', 'Month', 'Foot', 'Vehicles'],
    ['Hask', 'Hask to Ullin', '08:50', 'April', '1229', '260'],
    ['Tarve', 'Tarve to Hask', '06:00', 'June', '1', '2'],
  ];
  for (const [r, cells] of rows.entries())
    for (const [k, text] of cells.entries()) await page.locator(`[data-wanted="${r - 1}:${k}"]`).fill(text);
  await page.getByText(/% of cells match/).waitFor();
});

await picture('pages', 'light', async (page) => {
  await page.getByRole('button', { name: 'Crossings, printed' }).click();
  await page.getByText('after step 4').waitFor();
  await page.getByRole('grid', { name: 'Tidy table' }).locator('[data-cell="12:2"]').click();
  await page.getByText(/came from page 1/).waitFor();
});
await picture('print-out', 'light', async (page) => {
  await page.getByRole('button', { name: 'Weighbridge print-out' }).click();
  await page.getByText('after step 9').waitFor();
  await page.getByRole('grid', { name: 'Tidy table' }).locator('[data-cell="3:5"]').hover();
  await page.getByText('came from').waitFor();
});

await picture('tape', 'light', async (page) => {
  await page.getByRole('button', { name: 'Quay returns, quarterly' }).click();
  await page.getByText('after step 10').waitFor();
  await page
    .getByRole('region', { name: 'Method' })
    .getByRole('listitem')
    .nth(2)
    .click({ position: { x: 8, y: 8 } });
  await page.getByText('after step 3 ·').waitFor();
  await page.getByRole('button', { name: /^Row 11,/ }).click();
  await page.getByRole('radio', { name: 'total', exact: true }).click();
  await page.getByRole('list', { name: 'Rules' }).getByRole('button').first().hover();
  await page.getByText('not taken yet').waitFor();
});
await picture('glance', 'light', async (page) => {
  await page.getByRole('button', { name: 'Quay returns, quarterly' }).click();
  await page.getByText('after step 10').waitFor();
  await page.getByRole('columnheader').filter({ hasText: 'Foot passengers' }).click();
  await page.getByRole('button', { name: 'Glance', exact: true }).click();
  await page.getByRole('complementary').waitFor();
});
await picture('chart', 'dark', async (page) => {
  await page.getByRole('button', { name: 'Quay returns, quarterly' }).click();
  await page.getByText('after step 10').waitFor();
  await page.getByRole('button', { name: 'chart' }).click();
  await page.getByRole('figure').waitFor();
});
await picture('what-next', 'light', async (page) => {
  await bench(page);
  await page.getByRole('combobox', { name: 'What next?' }).fill('carry');
  await page.getByRole('region', { name: /^Example:/ }).waitFor();
});

await picture('tally', 'light', async (page) => {
  await bench(page);
  await page.getByRole('link', { name: /206 of 206 totals/ }).click();
  await page.getByRole('button', { name: 'Hask!B11' }).click();
  for (const name of [/^Port, Route, Sailing, Month identify/, /^the report's totals agree/, /^Month is one of/]) {
    await page.getByRole('textbox', { name: 'Add a check' }).click();
    await page.getByRole('option', { name }).click();
  }
  await page.getByText('3 checks hold').waitFor();
});

await picture('join', 'light', async (page) => {
  await page.getByRole('button', { name: 'Plan against outturn' }).click();
  await page.getByRole('tab', { name: 'Variance' }).click();
  await page.getByText('after step 3 ·').waitFor();
  await page
    .getByRole('region', { name: 'Method' })
    .getByRole('listitem')
    .nth(1)
    .click({ position: { x: 8, y: 8 } });
  await page.getByRole('button', { name: 'See the matches' }).click();
  await page.getByRole('combobox', { name: 'How keys are compared' }).click();
  await page.getByRole('option', { name: 'exactly' }).click();
  await page.getByText('24 of 36 match').first().waitFor();
});

await picture('map', 'light', async (page) => {
  await page.getByRole('button', { name: 'Targets against bookings' }).click();
  await page.getByRole('link', { name: 'Map' }).click();
  await page.getByText('64 rows × 7 columns').waitFor();
});

async function runAgain(page: Page, change: string): Promise<void> {
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Run again' }).click(),
  ]);
  await chooser.setFiles(later(change));
  await page.getByRole('dialog', { name: 'Run again' }).getByRole('table').waitFor();
}
await picture('again', 'light', async (page) => {
  await bench(page);
  await runAgain(page, 'a renamed column');
});
await picture('runs', 'light', async (page) => {
  await bench(page);
  await page.getByRole('link', { name: /206 of 206 totals/ }).waitFor();
  await page.clock.setFixedTime(new Date('2031-10-03T09:11:00'));
  await runAgain(page, 'corrected figures');
  await page.getByRole('button', { name: 'Use this file', exact: true }).click();
  await page.getByRole('link', { name: /[^6] of \d+ totals|206 of 206 totals/ }).waitFor();
  await page.waitForTimeout(2500);
  await page.getByRole('button', { name: 'More ways to run' }).click();
  await page.getByRole('menuitem', { name: /^Compare earlier runs/ }).click();
  await page.getByRole('table', { name: 'Changed rows' }).waitFor();
});

await browser.close();
server.close();
await watcher.stop();
rmSync(drop, { recursive: true });
