import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isDeepStrictEqual } from 'node:util';
import { expect, type Page, test } from '@playwright/test';
import { unzipSync } from 'fflate';
import { expectAccessible, exportText, openDemo, WORKBOOK } from './bench.ts';

async function openExport(page: Page) {
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitem', { name: 'Other formats …' }).click();
  return page.getByRole('dialog', { name: 'Export' });
}

async function pick(page: Page, label: string, option: RegExp): Promise<void> {
  await page.getByRole('dialog', { name: 'Export' }).getByRole('combobox', { name: label }).click();
  await page.getByRole('option', { name: option }).click();
}

async function take(page: Page, button: string): Promise<Buffer> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('dialog', { name: 'Export' }).getByRole('button', { name: button }).click(),
  ]);
  return readFileSync((await download.path())!);
}

/** A workbook is packed by the platform: its parts are the same everywhere, and how they are packed is not. */
const contentOf = (bytes: Buffer, as: string) => (as === 'xlsx' ? unzipSync(bytes) : bytes);

test('the browser and the command line give the same bytes', async ({ page }) => {
  test.setTimeout(120_000);
  await openDemo(page);
  const folder = mkdtempSync(join(tmpdir(), 'rimefield-e2e-'));
  const job = join(folder, 'job.json');
  writeFileSync(job, await exportText(page, 'Job file'));
  for (const [format, as] of [
    [/^Workbook/, 'xlsx'],
    [/^Parquet/, 'parquet'],
    [/^Arrow/, 'arrow'],
    [/^SQLite/, 'sqlite'],
    [/^Data package/, 'data-package'],
  ] as const) {
    await openExport(page);
    await pick(page, 'Format', format);
    const bytes = await take(page, 'Export');
    const out = join(folder, `out.${as}`);
    const args = ['service/cli.ts', 'run', job, '--source', `quay returns=${WORKBOOK}`, '--as', as, '--out', out];
    expect(spawnSync(process.execPath, ['--import', 'tsx', ...args]).stderr.toString()).toBe('');
    expect(isDeepStrictEqual(contentOf(bytes, as), contentOf(readFileSync(out), as)), as).toBe(true);
  }
});

test('choices are kept with the job; several tables leave as one archive', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Plan against outturn' }).click();
  await expect(page.getByText(/after step \d+ ·/)).toBeVisible();
  await openExport(page);
  await pick(page, 'Format', /^Delimited text/);
  await pick(page, 'Delimiter', /^semicolon/);
  await pick(page, 'Line ends', /^line ends LF/);
  const files = unzipSync(await take(page, 'All 3 tables'));
  expect(Object.keys(files)).toEqual(['Plan.csv', 'Outturn.csv', 'Variance.csv']);
  expect(new TextDecoder().decode(files['Plan.csv']).split('\n')[0]).toBe('Category;Month;Plan');
  const dialog = await openExport(page);
  await expect(dialog.getByRole('combobox', { name: 'Delimiter' })).toHaveText('semicolon');
});

test('the method as SQL, in several dialects, with the table that it begins with', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitem', { name: 'Method as SQL' }).click();
  const dialog = page.getByRole('dialog', { name: 'Method as SQL' });
  await expect(dialog.getByRole('status')).toContainText('8 steps translated to SQL');
  await expect(dialog).toContainText('Traffic begins after step 2, which Rimefield does because');
  await expectAccessible(page, 'method as SQL');
  const saved = async (name: string | RegExp) => {
    const [download] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name }).click()]);
    return { name: download.suggestedFilename(), bytes: readFileSync((await download.path())!) };
  };
  const raw = await saved('Save traffic_raw.parquet');
  expect(raw.bytes.subarray(0, 4).toString()).toBe('PAR1');
  await dialog.getByRole('combobox', { name: 'Dialect' }).click();
  await page.getByRole('option', { name: 'PostgreSQL' }).click();
  await expect(dialog.getByLabel('Script')).toHaveValue(/create table "traffic_raw" \("#" bigint, "Port" text/);
  const table = await saved('Save traffic_raw.csv');
  expect(table.bytes.toString()).toMatch(/^#,Port,Sailing,/);
  const script = await saved('Save the script');
  expect(script.name).toBe('traffic.sql');
  expect(script.bytes.toString()).toContain('-- 10. Rename Foot to Foot passengers');
});
