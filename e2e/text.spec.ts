import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import { done, dropBytes, dropFile, exportText, openBlank, report, step, test } from './bench.ts';
import { DEMO_JOBS } from './demo-jobs.ts';
import { dragOver } from './hands.ts';

test.describe('every kind of report', () => {
  for (const { name, truth } of DEMO_JOBS) {
    test(`${name}: the job on the shelf gives its truth`, async ({ page }) => {
      await page.goto('/');
      await page.getByRole('button', { name }).click();
      await expect(page.getByText(/after step \d+ ·/)).toBeVisible();
      await page.getByRole('tablist', { name: 'Tables' }).getByRole('tab').last().click();
      await expect(page.getByText('0 unreadable', { exact: true })).toBeVisible();
      expect(await exportText(page, 'Tidy table as CSV')).toBe(readFileSync(`demo/truth/${truth}.csv`, 'utf8'));
    });
  }
});

const selectInSample = (page: Page, text: string) =>
  dragOver(page, page.getByRole('textbox', { name: 'Sample line' }), text);

test.describe('the page that suits the reading', () => {
  test('the ruler: a cut is dragged, added, removed, moved by key, and a column named; all can be undone', async ({
    page,
  }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/weighbridge.prn');
    await expect(page.getByRole('tab', { name: 'fixed columns' })).toHaveAttribute('aria-selected', 'true');
    await expect(report(page).getByText('H-00412')).toBeVisible();
    const cut = page.getByRole('slider', { name: 'Cut 1, before character' });
    await expect(cut).toHaveAttribute('aria-valuenow', '15');
    const box = (await cut.boundingBox())!;
    await page.mouse.move(box.x + 5, box.y + 20);
    await page.mouse.down();
    await page.mouse.move(box.x + 5 - 36, box.y + 20, { steps: 5 });
    await page.mouse.up();
    await expect(cut).toHaveAttribute('aria-valuenow', '10');
    await expect(step(page, 1)).toContainText('10, 23, 42');
    await page.keyboard.press('Control+z');
    await expect(cut).toHaveAttribute('aria-valuenow', '15');

    await cut.focus();
    await page.keyboard.press('ArrowRight');
    await expect(cut).toHaveAttribute('aria-valuenow', '16');
    await page.keyboard.press('Delete');
    await expect(step(page, 1)).toContainText('before characters 23, 42, 62');
    const strip = page.getByTitle('Click to add a cut');
    const strips = (await strip.boundingBox())!;
    await page.mouse.click(strips.x + 7.22 * 14, strips.y + 22);
    await expect(step(page, 1)).toContainText('before characters 15, 23, 42');

    await page.getByRole('button', { name: 'Column 1, without a name' }).click();
    await page.getByRole('textbox', { name: 'Name of column 1' }).fill('Ticket');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('grid', { name: 'Tidy table' }).getByText('Ticket', { exact: true })).toBeVisible();
  });

  test('lines that do not fit the cuts are counted and set aside by rule', async ({ page }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/weighbridge.prn');
    // Texts that run across the cuts are whole at first.
    const editor = await openBlank(page, 1, 'Texts that run across a cut');
    await editor.getByText('cut in two').click();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('status').getByText('8 lines')).toBeVisible();
    await page.getByRole('button', { name: 'Set aside', exact: true }).click();
    await expect(step(page, 2)).toContainText('Set aside as notes: rows where Line has a value');
    await expect(page.getByText(/131 rows received: 123 in the table, 8 notes/)).toBeVisible();
  });

  test('a cut is typed too, and the text is read in another way', async ({ page }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/weighbridge.prn');
    await expect(report(page).getByText('H-00412')).toBeVisible();
    const editor = await openBlank(page, 1, 'Columns begin at characters');
    await editor.getByRole('textbox').fill('15, 23');
    await done(editor);
    await expect(page.getByText(/after step 1 · \d+ rows × 3 columns/)).toBeVisible();
    await page.getByRole('tab', { name: 'lines by pattern' }).click();
    await expect(step(page, 1)).toContainText('Read the lines of weighbridge as');
    await page.keyboard.press('Control+z');
    await expect(step(page, 1)).toContainText('in fixed columns');
  });

  test('kinds of record get cuts of their own on the ruler', async ({ page }) => {
    await page.goto('/');
    const lines = ['1 HASK    310602', '6 000123 0004520', '6 000124 0001999', '6 000125 0002000'].join('\n');
    await dropBytes(page, strToU8(lines), 'payments.txt');
    await page.getByRole('tab', { name: 'fixed columns' }).click();
    await step(page, 1)
      .getByRole('button', { name: /More of this sentence/ })
      .click();
    const editor = await openBlank(page, 1, 'Kinds of record');
    await editor.getByRole('button', { name: 'Tell kinds of record apart' }).click();
    await editor.getByRole('textbox', { name: 'Texts, one a line' }).fill('1\n6');
    await done(editor);
    await page.getByRole('group', { name: 'Cuts of' }).getByRole('button', { name: '6' }).click();
    const strip = page.getByTitle('Click to add a cut');
    const box = (await strip.boundingBox())!;
    await page.mouse.click(box.x + 7.22 * 9, box.y + 22);
    await expect(page.getByRole('grid', { name: 'Tidy table' }).getByText('0004520')).toBeVisible();
    await expect(page.getByRole('grid', { name: 'Tidy table' }).getByText('6 B')).toBeVisible();
  });

  test('a pattern piece is made by selecting text in a line and naming it', async ({ page }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/gate.log');
    await expect(page.getByRole('textbox', { name: 'Sample line' })).toBeVisible();
    await selectInSample(page, 'Brannoch');
    await page.getByRole('textbox', { name: 'Name of the piece' }).fill('Port');
    await page.getByRole('button', { name: 'Make it a column' }).click();
    await expect(step(page, 1)).toContainText('{Port}');
    await expect(step(page, 1)).toContainText('128 lines matched');
    await page.getByRole('button', { name: /^Piece Port/ }).click();
    await page.getByRole('button', { name: 'Take away' }).click();
    await expect(step(page, 1)).not.toContainText('{Port}');
  });

  test('the outline: another list is chosen, and its items are the rows', async ({ page }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/sailings.json');
    const outline = page.getByRole('tree', { name: 'Outline' });
    await expect(outline.getByRole('treeitem').filter({ hasText: 'children' })).toContainText(/in \d+%/);
    await outline.getByRole('treeitem').filter({ hasText: 'sailings [ ]' }).getByRole('button').click();
    await expect(step(page, 1)).toContainText('$[*].sailings[*]');
    await expect(page.getByText(/after step 1 · \d+ rows × 4 columns/)).toBeVisible();
    await outline.getByRole('treeitem').filter({ hasText: 'extras [ ]' }).getByRole('button').click();
    await expect(step(page, 1)).toContainText('bookings[*].extras[*]');
  });

  test('delimiters are changed with the outcome in sight', async ({ page }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/booking-export.csv');
    await expect(page.getByText(/161 rows × 9 columns/).first()).toBeVisible();
    await page.getByRole('radio', { name: 'comma' }).click();
    await expect(page.getByText(/after step 1 · 161 rows × [23] columns/)).toBeVisible();
    await page.getByRole('combobox', { name: 'Encoding' }).click();
    await page.getByRole('option', { name: 'utf-8' }).click();
    await page.getByRole('radio', { name: 'semicolon' }).click();
    await expect(
      report(page)
        .getByText(/Andr\ufffd/)
        .first(),
    ).toBeVisible();
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect(report(page).getByText(/André/).first()).toBeVisible();
  });

  test('a range of cells is dragged on a sheet and read alone', async ({ page }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/quay-returns-q2.xlsx');
    const cell = (key: string) => report(page).locator(`[data-cell="${key}"]`);
    await cell('4:1').hover();
    await page.mouse.down();
    await cell('9:3').hover();
    await page.mouse.up();
    await page.getByRole('button', { name: 'Read only B5:D10' }).click();
    await page.getByText(/after step 1 · 24 rows × 4 columns/).waitFor();
    await expect(step(page, 1)).toContainText('cells B5:D10');
  });
});

test.describe('several files', () => {
  test('dropped together they are one source, stacked, with their names beside the rows', async ({ page }) => {
    await page.goto('/');
    const transfer = await page.evaluateHandle(() => {
      const data = new DataTransfer();
      for (const month of ['01', '02', '03'])
        data.items.add(new File([`Quay,Foot\nHask,${month}\n`], `arrivals-2031-${month}.csv`));
      return data;
    });
    await page.dispatchEvent('main', 'drop', { dataTransfer: transfer });
    await expect(page.getByText(/after step 1 · 6 rows × 4 columns/)).toBeVisible();
    await expect(page.getByRole('tab', { name: 'arrivals-2031-02.csv' })).toBeVisible();
    await expect(step(page, 1)).toContainText('arrivals-{Part}.csv');
  });

  test('two hundred sheets are found by typing', async ({ page }) => {
    await page.goto('/');
    const files = Object.fromEntries(
      Array.from({ length: 200 }, (_, k) => [`quay-${k + 1}.csv`, strToU8(`A,B\n${k},x\n`)]),
    );
    await dropBytes(page, zipSync(files), 'many.zip');
    await expect(page.getByText(/after step 1 · 400 rows/)).toBeVisible();
    await page.getByRole('combobox', { name: 'Sheet' }).fill('quay-150');
    await page.getByRole('option', { name: 'quay-150.csv' }).click();
    await expect(report(page).getByText('149')).toBeVisible();
  });

  test('what cannot be read says so, and the application lives on', async ({ page }) => {
    await page.goto('/');
    await dropBytes(page, strToU8('PK\u0003\u0004 cut off'), 'month.zip');
    // While a worker starts, the bar that says what is being read may be there too.
    await expect(page.getByRole('alert').filter({ hasText: 'month.zip is damaged or cut off' })).toBeVisible();
    await dropBytes(page, strToU8('%PDF-1.7'), 'report.csv');
    await expect(page.getByRole('alert').filter({ hasText: 'is a PDF' })).toBeVisible();
    await dropFile(page, 'demo/files/manifest.txt');
    await expect(page.getByText(/after step 1 · 15 rows × 4 columns/)).toBeVisible();
  });
});
