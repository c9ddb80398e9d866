import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { done, dropFile, exportText, openBlank, report, step } from './bench.ts';

test.describe('print-outs and logs', () => {
  for (const [name, file, last] of [
    ['Weighbridge print-out', 'weighbridge', 9],
    ['Gate log', 'gate', 4],
  ] as const) {
    test(`${name}: the job on the shelf gives its truth`, async ({ page }) => {
      await page.goto('/');
      await page.getByRole('button', { name }).click();
      await expect(page.getByText(`after step ${last} ·`)).toBeVisible();
      expect(await exportText(page, 'Tidy table as CSV')).toBe(readFileSync(`demo/truth/${file}.csv`, 'utf8'));
    });
  }

  test('a dropped print-out is read in fixed columns; a cut is changed, and the text is read in another way', async ({
    page,
  }) => {
    await page.goto('/');
    await dropFile(page, 'demo/files/weighbridge.prn');
    await expect(page.getByRole('tab', { name: 'fixed columns' })).toHaveAttribute('aria-selected', 'true');
    await expect(report(page).getByText('Orrin & Daughters').first()).toBeVisible();
    const editor = await openBlank(page, 1, 'Columns begin at characters');
    await editor.getByRole('textbox').fill('15, 23');
    await done(editor);
    await expect(page.getByText(/after step 1 · \d+ rows × 3 columns/)).toBeVisible();
    await page.getByRole('tab', { name: 'lines by pattern' }).click();
    await expect(step(page, 1)).toContainText('Read the lines of weighbridge as');
    await page.keyboard.press('Control+z');
    await expect(step(page, 1)).toContainText('in fixed columns');
  });
});
