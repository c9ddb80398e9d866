import { utils, write } from '@e965/xlsx';
import { expect } from '@playwright/test';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { dropBytes, report, step, test } from './bench.ts';

/**
 * A workbook that takes many seconds to read, in one piece: the comment among its cells is no common form, so the library
 * reads it, in which nothing can see that it is to stop.
 */
function longWorkbook(): Uint8Array {
  const book = { SheetNames: ['Counts'], Sheets: { Counts: utils.aoa_to_sheet([['Foot']]) } };
  const files = unzipSync(new Uint8Array(write(book, { type: 'buffer', bookType: 'xlsx' }) as Buffer));
  const path = 'xl/worksheets/sheet1.xml';
  const rows = Array.from(
    { length: 250_000 },
    (_, k) =>
      `<row r="${k + 1}">${['A', 'B', 'C', 'D'].map((c) => `<c r="${c}${k + 1}"><v>${k}</v></c>`).join('')}</row>`,
  );
  const xml = new TextDecoder().decode(files[path]);
  files[path] = strToU8(
    xml.replace(/<sheetData>.*<\/sheetData>/s, `<sheetData><!-- counted by hand -->${rows.join('')}</sheetData>`),
  );
  return zipSync(files, { level: 1 });
}

test('what takes long can be stopped on every page, and another file is read meanwhile', async ({ page }) => {
  test.setTimeout(180_000);
  const long = longWorkbook();
  const stop = page.getByRole('button', { name: 'Stop' });
  await page.goto('/');

  await dropBytes(page, long, 'counts.xlsx');
  await expect(page.getByText(/^Still reading counts\.xlsx, \d+ s$/)).toBeVisible({ timeout: 20_000 });
  const asked = Date.now();
  await stop.click();
  await expect(page.getByText('Stopped: Rimefield was reading counts.xlsx.').first()).toBeVisible({ timeout: 2000 });
  expect(Date.now() - asked).toBeLessThan(2500);

  // The worker that is kept for the next file can be stopped too.
  await dropBytes(page, strToU8('{"Port": '), 'half.json');
  await expect(page.getByText(/half\.json is not valid JSON/)).toBeVisible();
  await dropBytes(page, long, 'again.xlsx');
  await expect(page.getByText(/^Still reading again\.xlsx/)).toBeVisible({ timeout: 20_000 });
  await stop.click();
  await expect(page.getByText('Stopped: Rimefield was reading again.xlsx.').first()).toBeVisible({ timeout: 2000 });

  // The file is taken in again, and a small one while it is looked at.
  await dropBytes(page, long, 'counts.xlsx');
  await expect(stop).toBeVisible({ timeout: 20_000 });
  await dropBytes(page, strToU8('Port,Foot\nHask,12\nUllin,7\n'), 'small.csv');
  await expect(report(page).getByText('Ullin')).toBeVisible({ timeout: 8000 });
});

test('a step that is stopped stays off until it is wanted once more, also after a reload', async ({ page }) => {
  test.setTimeout(240_000);
  const stop = page.getByRole('button', { name: 'Stop' });
  await page.goto('/');
  await dropBytes(page, longWorkbook(), 'counts.xlsx');
  await expect(page.getByText('after step 1 · 250,000 rows × 4 columns')).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText('1 sheet read by the slower of two ways')).toBeVisible();
  // What was read when it was dropped is read again by the first step.
  await page.reload();
  await expect(page.getByText(/^Still at step 1 of Table 1, \d+ s$/)).toBeVisible({ timeout: 120_000 });
  await stop.click();
  await expect(step(page, 1).getByRole('alert')).toContainText(/You stopped this step after \d+ seconds/, {
    timeout: 5000,
  });
  await page.reload();
  await expect(step(page, 1).getByRole('alert')).toContainText('It is disabled until you edit it');
  await step(page, 1).getByRole('button', { name: 'Run it again' }).click();
  await expect(page.getByText('after step 1 · 250,000 rows × 4 columns')).toBeVisible({ timeout: 120_000 });
});
