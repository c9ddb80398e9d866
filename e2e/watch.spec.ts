/** A folder watched: the browser's own folder of the page stands in for one that the user chooses. */
import { expect, type Page } from '@playwright/test';
import { act, addStep, expectAccessible, selectColumns, test, tidy } from './bench.ts';

const csv = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
const REPORT = 'Pier;Month;Foot\nHask;June;5\nUllin;June;7\n';

/** The dialogs of the system cannot be driven, so what they would give is given here. */
async function withFolder(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const folder = async () => (await navigator.storage.getDirectory()).getDirectoryHandle('Reports', { create: true });
    window.showDirectoryPicker = folder;
    window.showOpenFilePicker = async () => [await (await folder()).getFileHandle('latest.csv')];
  });
}

async function put(page: Page, name: string, text: string): Promise<void> {
  await page.evaluate(
    async ({ name, text }) => {
      const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('Reports', { create: true });
      const writable = await (await folder.getFileHandle(name, { create: true })).createWritable();
      await writable.write(text);
      await writable.close();
    },
    { name, text },
  );
}

async function beginJob(page: Page, ...files: string[]): Promise<void> {
  await withFolder(page);
  await page.goto('/');
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'New job from a file' }).click(),
  ]);
  await chooser.setFiles(files.map((file) => csv(file, REPORT)));
  await expect(page.getByText(/after step 1 ·/)).toBeVisible();
  await addStep(page, 'header');
  await expect(page.getByText(/after step 2 ·/)).toBeVisible();
  await selectColumns(page, 'Foot');
  await act(page, 'Set type');
  await expect(page.getByText(`after step 3 · ${2 * files.length} rows`)).toBeVisible();
}

async function keepInSight(page: Page): Promise<ReturnType<Page['getByRole']>> {
  await page.getByRole('button', { name: 'More ways to run' }).click();
  await page.getByRole('menuitem', { name: 'Watch a folder' }).click();
  return page.getByRole('dialog', { name: 'Watch a folder' });
}

const runAgain = (page: Page) => page.getByRole('button', { name: 'Run again' });
const again = (page: Page) => page.getByRole('dialog', { name: 'Run again' });

test('the next file is found in the folder by its name, without asking for it, after a reload too', async ({
  page,
}) => {
  await beginJob(page, 'piers-2031-06.csv');
  await put(page, 'piers-2031-05.csv', REPORT);
  await put(page, 'notes.csv', 'a;b\n');
  const dialog = await keepInSight(page);
  await expectAccessible(page, 'keep a folder in sight');
  await dialog.getByRole('button', { name: 'Choose a folder' }).click();
  await expect(dialog.getByRole('textbox', { name: 'Names of its files' })).toHaveValue('piers-*-*.csv');
  // The month before is no news.
  await expect(dialog.getByRole('status')).toHaveText('No file has arrived since piers-2031-06.csv.');
  await dialog.getByRole('button', { name: 'Done' }).click();
  await runAgain(page).click();
  await expect(page.getByText('No new file found: piers-*-*.csv in Reports.')).toBeVisible();

  await put(page, 'piers-2031-08.csv', 'Pier;Month;Foot\nTarve;August;1\n');
  await put(page, 'piers-2031-07.csv', 'Pier;Month;Foot\nHask;July;5\nBrannoch;July;8\n');
  await page.reload();
  await expect(runAgain(page)).toHaveAccessibleDescription('piers-2031-07.csv has come');
  await runAgain(page).click();
  await expect(again(page)).toContainText('piers-2031-07.csv, in place of piers-2031-06.csv');
  await expect(again(page)).toContainText('new in Pier: Brannoch');
  // Another one that has come can be taken instead.
  await again(page).getByRole('combobox', { name: 'File' }).click();
  await page.getByRole('option', { name: 'piers-2031-08.csv' }).click();
  await expect(again(page)).toContainText('new in Pier: Tarve');
  await again(page).getByRole('combobox', { name: 'File' }).click();
  await page.getByRole('option', { name: 'piers-2031-07.csv' }).click();
  await again(page).getByRole('button', { name: 'Use this file' }).click();
  await expect(tidy(page).getByText('Brannoch')).toBeVisible();
  await expect(runAgain(page)).toHaveAccessibleDescription('piers-2031-08.csv has come');
});

test('a report that is always saved under one name is found when it has changed', async ({ page }) => {
  await beginJob(page, 'latest.csv');
  await put(page, 'latest.csv', REPORT);
  const dialog = await keepInSight(page);
  await dialog.getByRole('button', { name: 'Choose a file' }).click();
  await expect(dialog.getByRole('status')).toHaveText('No file has arrived since latest.csv.');
  await dialog.getByRole('button', { name: 'Done' }).click();
  // As many bytes as before: what stands in it decides.
  await put(page, 'latest.csv', REPORT.replace('Ullin', 'Tarve'));
  await runAgain(page).click();
  await again(page).getByRole('button', { name: 'Use this file' }).click();
  await expect(tidy(page).getByText('Tarve')).toBeVisible();
  const after = await keepInSight(page);
  await after.getByRole('button', { name: 'Stop watching' }).click();
  await expect(after).toBeHidden();
  await expect(runAgain(page)).toHaveAccessibleDescription('');
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), runAgain(page).click()]);
  expect(chooser.isMultiple()).toBe(true);
});

test('a report of several files is read again with all that the folder holds by then', async ({ page }) => {
  await beginJob(page, 'piers-1.csv', 'piers-2.csv');
  await put(page, 'piers-1.csv', REPORT);
  await put(page, 'piers-2.csv', REPORT);
  const dialog = await keepInSight(page);
  await dialog.getByRole('button', { name: 'Choose a folder' }).click();
  await expect(dialog.getByRole('status')).toHaveText(/^No file has arrived since/);
  await dialog.getByRole('button', { name: 'Done' }).click();
  await put(page, 'piers-3.csv', 'Pier;Month;Foot\nTarve;August;1\n');
  await runAgain(page).click();
  await expect(again(page)).toContainText('piers (3 files).zip, in place of piers (2 files).zip');
  await again(page).getByRole('button', { name: 'Use this file' }).click();
  await expect(page.getByText('after step 3 · 5 rows')).toBeVisible();
});

test('a folder that is gone is reported, and a file can be chosen instead', async ({ page }) => {
  await beginJob(page, 'piers-1.csv');
  await put(page, 'piers-1.csv', REPORT);
  const dialog = await keepInSight(page);
  await dialog.getByRole('button', { name: 'Choose a folder' }).click();
  await dialog.getByRole('button', { name: 'Done' }).click();
  await page.evaluate(async () => (await navigator.storage.getDirectory()).removeEntry('Reports', { recursive: true }));
  await runAgain(page).click();
  await expect(page.getByText("Reports is not where it was. Choose it again under 'Watch a folder'.")).toBeVisible();
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Choose a file' }).click(),
  ]);
  await chooser.setFiles(csv('piers-2.csv', 'Pier;Month;Foot\nTarve;July;1\n'));
  await expect(again(page)).toContainText('new in Pier: Tarve');
});

test('where the browser keeps no folders, nothing of it is shown', async ({ page }) => {
  await page.addInitScript(() => {
    Reflect.deleteProperty(window, 'showDirectoryPicker');
    Reflect.deleteProperty(window, 'showOpenFilePicker');
  });
  await page.goto('/');
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'New job from a file' }).click(),
  ]);
  await chooser.setFiles(csv('piers-1.csv', REPORT));
  await page.getByRole('button', { name: 'More ways to run' }).click();
  await expect(page.getByRole('menuitem', { name: 'When a file arrives' })).toBeVisible();
  await expect(page.getByRole('menuitem', { name: 'Watch a folder' })).toHaveCount(0);
});
