/** A report of a kept job is known when it is dropped on the shelf. */
import { expect, test } from '@playwright/test';
import { laterReports } from '../demo/later.ts';
import { dropBytes, expectAccessible } from './bench.ts';

const later = (change: string) =>
  laterReports().find((one) => one.demo === 'quay-returns' && one.change === change)!.made.bytes;

test.beforeEach(async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Quay returns, quarterly' }).click();
  await page.getByText('after step 10').waitFor();
  await page.getByRole('link', { name: 'Rimefield' }).click();
  await page.getByRole('link', { name: 'Quay returns, quarterly' }).waitFor();
});

test('its job is offered first, and Enter runs it on the report', async ({ page }) => {
  await dropBytes(page, later('other months'), 'quay-returns-q3.xlsx');
  const offer = page.getByRole('region', { name: 'Recognized report' });
  await expect(offer).toContainText('quay-returns-q3.xlsx looks like the next report of Quay returns, quarterly');
  await expect(offer.getByRole('button', { name: 'Run Quay returns, quarterly on it' })).toBeFocused();
  await expectAccessible(page, 'a recognized report');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toContainText('quay-returns-q3.xlsx');
});

test('a new job can be started all the same, and Escape leaves the file', async ({ page }) => {
  const offer = page.getByRole('region', { name: 'Recognized report' });
  await dropBytes(page, later('other months'), 'quay-returns-q3.xlsx');
  await offer.waitFor();
  await page.keyboard.press('Escape');
  await expect(offer).toBeHidden();
  await dropBytes(page, later('other months'), 'quay-returns-q3.xlsx');
  await offer.getByRole('button', { name: 'Start a new job' }).click();
  await expect(page.getByRole('region', { name: 'Method' })).toBeVisible();
  await expect(page).toHaveTitle(/quay-returns-q3/);
});

test('a report of another kind begins a job at once', async ({ page }) => {
  const bytes = new TextEncoder().encode('Member,Joined,Fee\nAda Berg,2031-05-01,12\nOle Moe,2031-05-02,14\n');
  await dropBytes(page, bytes, 'members.csv');
  await expect(page.getByRole('region', { name: 'Method' })).toBeVisible();
  await expect(page).toHaveTitle(/members/);
});
