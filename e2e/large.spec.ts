import { expect } from '@playwright/test';
import { report, test } from './bench.ts';

const ROWS = 300_000;

test('a large file is read whole: every row is there, also after a reload', async ({ page }) => {
  test.setTimeout(120_000);
  await page.goto('/');
  const size = await page.evaluate((rows) => {
    const lines = ['Ref,Quay,Day,Foot,Fare,Note'];
    for (let r = 0; r < rows; r++)
      lines.push(`B${r},Tarve Roads,2031-06-${10 + (r % 19)},${r % 97},${(r % 9973) / 100},"crossing ${r}, as booked"`);
    const file = new File([lines.join('\n')], 'bookings.csv');
    const data = new DataTransfer();
    data.items.add(file);
    document.querySelector('main')!.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true }));
    return file.size;
  }, ROWS);
  expect(size).toBeGreaterThan(16_777_216);
  const whole = page.getByText('after step 1 · 300,001 rows × 6 columns');
  await expect(whole).toBeVisible({ timeout: 60_000 });
  await expect(report(page).getByText('crossing 3, as booked')).toBeVisible();
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
  await page.waitForTimeout(500);
  await page.reload();
  await expect(whole).toBeVisible({ timeout: 60_000 });
});
