/** Printed pages, typed tables, messages and packed files, from the drop to the table. */
import { gzipSync } from 'node:zlib';
import { expect, type Page } from '@playwright/test';
import { parquetWriteBuffer } from 'hyparquet-writer';
import { pdfBytes } from '../demo/pdf-bytes.ts';
import { dropBytes, dropFile, report, step, test, tidy } from './bench.ts';

const ROWS = Array.from({ length: 70 }, (_, r) => [
  `S${1000 + r}`,
  ['Hask', 'Ullin', 'Brannoch'][r % 3]!,
  r % 11 === 3 ? 'Held at the quay for an hour by fog, and then sailed half empty' : 'on time',
  String((r * 37) % 900),
]);

/** Printed by the browser itself, with heads and feet and the names of columns on each page. */
async function printed(page: Page): Promise<Uint8Array> {
  const cells = ROWS.map((row) => `<tr>${row.map((cell, c) => `<td class=c${c}>${cell}</td>`).join('')}</tr>`);
  const sheet = await page.context().newPage();
  await sheet.setContent(`
    <style>table{border-collapse:collapse;width:100%;font:11px sans-serif}td{padding:3px 6px;vertical-align:middle}
    .c2{width:170px}.c3{text-align:right}</style>
    <table><thead><tr><th>Sailing</th><th>Port</th><th>Remarks</th><th>Foot</th></tr></thead>
    <tbody>${cells.join('')}</tbody></table>`);
  const bytes = await sheet.pdf({
    format: 'A4',
    displayHeaderFooter: true,
    headerTemplate: '<div style="font-size:8px;padding:0 40px">Skerrow Ferries, sailings of June</div>',
    footerTemplate:
      '<div style="font-size:8px;width:100%;text-align:center">Page <span class=pageNumber></span> of <span class=totalPages></span></div>',
    margin: { top: '60px', bottom: '60px', left: '40px', right: '40px' },
  });
  await sheet.close();
  return bytes;
}

test.describe('printed pages', () => {
  test('the page stands on the left; a cell is traced to it; cuts are moved and columns named on its ruler', async ({
    page,
  }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/crossings.pdf');
    await expect(page.getByText('after step 1 · 92 rows × 7 columns')).toBeVisible();
    await expect(report(page).getByText('Skerrow').first()).toBeVisible();
    await tidy(page).locator('[data-cell="1:5"]').click();
    await expect(page.getByText('803.25 came from page 1, line 4, cell 6')).toBeVisible();
    await expect(report(page).locator('[data-cell="3:5"]')).toBeInViewport();

    const cut = page.getByRole('slider', { name: 'Cut 2, before point' });
    await cut.focus();
    await page.keyboard.press('Shift+ArrowLeft');
    await expect(step(page, 1)).toContainText('98, 190, 269');
    await page.keyboard.press('Delete');
    await expect(page.getByText('after step 1 · 92 rows × 6 columns')).toBeVisible();
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect(step(page, 1)).toContainText('98, 195, 269');
    await page.getByRole('button', { name: 'Column 2, without a name' }).click();
    await page.getByRole('textbox', { name: 'Name of column 2' }).fill('From and to');
    await page.keyboard.press('Enter');
    await expect(tidy(page).getByText('From and to', { exact: true })).toBeVisible();
  });

  test('a row far down is gone to on its page, and read again after a reload', async ({ page }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/crossings.pdf');
    await expect(page.getByText('after step 1 · 92 rows × 7 columns')).toBeVisible();
    await page.reload();
    await expect(page.getByText('after step 1 · 92 rows × 7 columns')).toBeVisible();
    await tidy(page).evaluate((grid) => grid.scrollTo(0, 10_000));
    const last = tidy(page).getByText('All weeks', { exact: true });
    await last.click();
    await expect(report(page).getByText('All', { exact: true }).last()).toBeInViewport();
  });

  test('what the browser printed: wrapped cells in the middle of their rows are joined', async ({ page }) => {
    await page.goto('/');
    await dropBytes(page, await printed(page), 'sailings.pdf');
    await expect(step(page, 1)).toContainText('rows of several lines, joined');
    await expect(
      tidy(page).getByText('Held at the quay for an hour by fog, and then sailed half empty').first(),
    ).toBeVisible();
    // A row for each sailing, and the names of columns on each of the pages.
    await expect(page.getByText(/after step 1 · 7[123] rows × 4 columns/)).toBeVisible();
  });

  test('pages that are pictures, or locked, say so on the shelf', async ({ page }) => {
    await page.goto('/');
    const empty = await page.context().newPage();
    await empty.setContent('<div style="width:100px;height:100px;background:gray"></div>');
    const bytes = await empty.pdf({ format: 'A4', printBackground: true });
    await empty.close();
    await dropBytes(page, bytes, 'scan.pdf');
    await expect(page.getByText(/scan\.pdf holds no text: its page is a picture/)).toBeVisible();
  });
});

test('of a long print-out the share that is read is reported, and reading it can be stopped', async ({ page }) => {
  test.setTimeout(120_000);
  const pages = Array.from({ length: 2500 }, (_, p) =>
    Array.from({ length: 50 }, (_, r) => ({ text: `S${p * 50 + r}   Hask   ${r}`, x: 60, y: 60 + r * 14, size: 9 })),
  );
  await page.goto('/');
  await dropBytes(page, pdfBytes(pages), 'sailings.pdf');
  await expect(page.getByText(/^Still reading sailings\.pdf, \d+% done, \d+ s$/)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText(/^Stopped: Rimefield was reading sailings\.pdf, \d+% done\.$/).first()).toBeVisible();
});

test('a Parquet file keeps its names and types', async ({ page }) => {
  const bytes = parquetWriteBuffer({
    columnData: [
      { name: 'Port', data: ['Hask', 'Ullin', null], type: 'STRING' },
      { name: 'Fare', data: [1.5, null, -2], type: 'DOUBLE' },
    ],
  });
  await page.goto('/');
  await dropBytes(page, new Uint8Array(bytes), 'fares.parquet');
  await expect(page.getByText('after step 1 · 3 rows × 2 columns')).toBeVisible();
  await expect(tidy(page).getByRole('columnheader').filter({ hasText: 'Fare' })).toContainText('number');
  await expect(report(page).getByText('Port', { exact: true })).toBeVisible();
});

test('a message with a packed report attached', async ({ page }) => {
  const attached = gzipSync('Sailing,Foot\n07:10,5\n07:40,9\n').toString('base64');
  const mail = [
    'From: Mara Tolm <mara@example.com>',
    'Subject: June',
    'Date: Mon, 02 Jun 2031 07:10:30 +0000',
    'MIME-Version: 1.0',
    'Content-Type: multipart/mixed; boundary=b',
    '',
    '--b',
    'Content-Type: text/plain',
    '',
    'As asked.',
    '--b',
    'Content-Type: application/gzip; name="foot.csv.gz"',
    'Content-Transfer-Encoding: base64',
    'Content-Disposition: attachment; filename="foot.csv.gz"',
    '',
    attached,
    '--b--',
  ].join('\r\n');
  await page.goto('/');
  await dropBytes(page, new TextEncoder().encode(mail), 'june.eml');
  await expect(tidy(page).getByText('07:40')).toBeVisible();
  await expect(step(page, 1)).toContainText('june');
});
