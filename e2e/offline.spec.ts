import { expect, test } from '@playwright/test';

test.use({ serviceWorkers: 'allow' });

test('the application installs, and opens, runs and exports without a network', async ({ page, context }) => {
  await page.goto('/');
  const manifest = await page.locator('link[rel=manifest]').getAttribute('href');
  const { name, icons, start_url } = await (await page.request.get(`/${manifest!.replace(/^\//, '')}`)).json();
  expect(name).toBe('Rimefield');
  for (const { src } of icons as { src: string }[])
    expect((await page.request.get(`/${src}`)).headers()['content-type']).toBe('image/png');
  expect(start_url).toBe('/');
  // Ready once every file is kept.
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));

  await context.setOffline(true);
  await page.reload();
  await expect(page.getByRole('heading', { level: 1 }).or(page.getByText('Rimefield').first())).toBeVisible();
  // Isolated as from the server: a running step can still be stopped.
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
  await page.getByRole('button', { name: /Quay returns, quarterly/ }).click();
  await expect(page.getByRole('region', { name: 'Tidy' })).toContainText('rows');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitem', { name: /CSV/ }).first().click();
  expect((await download).suggestedFilename()).toMatch(/\.csv$/);
  await page.reload();
  await expect(page.getByRole('region', { name: 'Tidy' })).toContainText('rows');
});
