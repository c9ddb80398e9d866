/** What a user does on the bench, for the tests. */
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import { test as base, expect, type Locator, type Page } from '@playwright/test';

export const WORKBOOK = 'demo/files/quay-returns-q2.xlsx';
export const TRUTH = readFileSync('demo/truth/quay-returns-q2.csv', 'utf8');

/** For what is built by hand: no report is drafted on its own. */
export const test = base.extend({
  page: async ({ page }, use) => {
    await page.addInitScript(() => {
      // Once: what a test sets there later stays.
      if (localStorage.getItem('bench-view') === null)
        localStorage.setItem('bench-view', JSON.stringify({ state: { drafting: false }, version: 0 }));
    });
    await use(page);
  },
});

/** Drops a file from the desktop onto the page. */
export function dropFile(page: Page, file: string, name = basename(file)): Promise<void> {
  return dropBytes(page, readFileSync(file), name);
}

export async function dropBytes(page: Page, bytes: Uint8Array, name: string): Promise<void> {
  const base64 = Buffer.from(bytes).toString('base64');
  const transfer = await page.evaluateHandle(
    ({ base64, name }) => {
      const bytes = Uint8Array.from(atob(base64), (character) => character.charCodeAt(0));
      const data = new DataTransfer();
      data.items.add(new File([bytes], name));
      return data;
    },
    { base64, name },
  );
  await page.dispatchEvent('main', 'drop', { dataTransfer: transfer });
}

export async function openDemo(page: Page): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'Quay returns, quarterly' }).click();
  await expect(page.getByText('after step 10 · 117 rows × 6 columns')).toBeVisible();
}

export const tidy = (page: Page) => page.getByRole('grid', { name: 'Tidy table' });
export const report = (page: Page) => page.getByRole('grid', { name: /as received/ });
export const step = (page: Page, number: number) =>
  page
    .getByRole('region', { name: 'Method' })
    .getByRole('listitem')
    .nth(number - 1);

/** Finds a kind of step by typed letters and takes the first found. */
export async function addStep(page: Page, letters: string): Promise<void> {
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'What next?' }).fill(letters);
  await page.keyboard.press('Enter');
}

/** Opens a blank of a step, by the label of its editor. */
export async function openBlank(page: Page, number: number, label: string): Promise<Locator> {
  const button = step(page, number).getByRole('button', { name: new RegExp(`^${label}:`) });
  await button.waitFor();
  // The rule of a step opens where the focus or the pointer is.
  await button.focus();
  // What is found in the new table comes below the steps, and moves them.
  await still(page.getByRole('region', { name: 'Method' }));
  await button.click();
  const editor = page.getByRole('dialog', { name: label });
  await expect(editor).toBeVisible();
  return editor;
}

export async function done(editor: Locator): Promise<void> {
  await editor.getByRole('button', { name: 'Done' }).click();
  await expect(editor).toBeHidden();
}

export async function fillBlank(page: Page, number: number, label: string, text: string): Promise<void> {
  const editor = await openBlank(page, number, label);
  await editor.getByRole('textbox').fill(text);
  await done(editor);
}

/** Chooses from one of the editor's lists. */
export async function choose(page: Page, editor: Locator, label: string, option: string): Promise<void> {
  await editor.getByRole('combobox', { name: label, exact: true }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
}

/** Turns the wheel over a page until something is on it. */
export async function scrollTo(page: Page, over: Locator, wanted: Locator, by: [number, number]): Promise<void> {
  await expect(async () => {
    if ((await wanted.count()) === 0) {
      await over.hover();
      await page.mouse.wheel(...by);
    }
    expect(await wanted.count()).toBeGreaterThan(0);
  }).toPass({ intervals: [60, 100] });
}

/** How long a part of the page may go on to move. */
const MOVES_MS = 10_000;

/** Waits until a part of the page stands still: what is asked about a table comes in a moment, and moves what is there. */
export function still(part: Locator): Promise<void> {
  return part.evaluate(async (element, most) => {
    let before = '';
    const until = performance.now() + most;
    for (let same = 0; same < 3; ) {
      await new Promise((done) => setTimeout(done, 50));
      same = element.innerHTML === before ? same + 1 : 0;
      if (same === 0 && performance.now() > until) throw new Error(`It still moves: ${element.textContent}`);
      before = element.innerHTML;
    }
  }, MOVES_MS);
}

/** Waits until the page can be left without being asked: all that was edited is kept. */
export async function untilKept(page: Page): Promise<void> {
  await page.waitForFunction(() => {
    const leaving = new Event('beforeunload', { cancelable: true });
    dispatchEvent(leaving);
    return !leaving.defaultPrevented;
  });
}

export async function selectColumns(page: Page, ...names: string[]): Promise<void> {
  await still(tidy(page));
  for (const [k, name] of names.entries()) {
    const column = tidy(page).getByText(name, { exact: true });
    // Columns out of sight are not on the page: scroll across as a user would.
    await scrollTo(page, tidy(page), column, [300, 0]);
    const head = tidy(page)
      .getByRole('columnheader')
      .filter({ has: page.getByText(name, { exact: true }) });
    await head.click({ modifiers: k === 0 ? [] : ['Control'] });
  }
}

export async function act(page: Page, action: string): Promise<void> {
  const bar = page.getByRole('toolbar', { name: 'Actions for what is selected' });
  await bar.getByRole('button', { name: 'Clear the selection' }).waitFor();
  await still(bar);
  const button = bar.getByRole('button', { name: action, exact: true });
  if ((await button.count()) > 0) {
    await button.click();
    return;
  }
  await bar.getByRole('button', { name: 'More actions' }).click();
  await page.getByRole('menuitem', { name: action, exact: true }).click();
}

/** Exports by a menu entry. @returns the text of the file */
export async function exportText(page: Page, entry: string): Promise<string> {
  await page.getByRole('button', { name: 'Export' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: entry }).click(),
  ]);
  return readFileSync((await download.path())!, 'utf8');
}

/** Selects a step by its number, beside the blanks of its sentence. */
export async function selectStep(page: Page, number: number): Promise<void> {
  await step(page, number).click({ position: { x: 8, y: 8 } });
}

/** Nothing in sight goes against WCAG 2.2, levels A and AA, as far as axe can tell. */
export async function expectAccessible(page: Page, where: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    // Rows of a sheet are alike: the first ones stand for all.
    .exclude('[role="grid"] [role="row"]:nth-child(n + 8)')
    .analyze();
  expect(violations.map((one) => `${where}: ${one.id}: ${one.nodes[0]?.html.slice(0, 200)}`)).toEqual([]);
}
