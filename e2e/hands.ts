/** A user at work whose actions are counted: clicks, drags, and keys other than typed words. */
import { expect, type Locator, type Page } from '@playwright/test';
import { report, scrollTo, step, still, tidy } from './bench.ts';

/** Drags with the mouse over a text inside an element: where it stands first, or from this character on. */
export async function dragOver(page: Page, within: Locator, text: string, at?: number): Promise<void> {
  const box = await within.evaluate(
    (element, { text, at }) => {
      const start = at ?? element.textContent!.indexOf(text);
      const range = document.createRange();
      const walker = document.createTreeWalker(element, NodeFilter.SHOW_TEXT);
      let before = 0;
      for (let node = walker.nextNode(); node !== null; node = walker.nextNode()) {
        const length = node.textContent!.length;
        const [from, to] = [start - before, start + text.length - before];
        if (from >= 0 && from < length) range.setStart(node, from);
        if (to > 0 && to <= length) range.setEnd(node, to);
        before += length;
      }
      // Into the middle: at an edge, a drag would scroll.
      const [own, around] = [range.getBoundingClientRect(), element.getBoundingClientRect()];
      element.scrollLeft += own.left - around.left - around.width / 2;
      const { left, right, top, height } = range.getBoundingClientRect();
      return { left, right, y: top + height / 2 };
    },
    { text, at },
  );
  await page.mouse.move(box.left + 0.5, box.y);
  await page.mouse.down();
  // A blank is so thin that its end is reached only a little behind it.
  await page.mouse.move(box.right + (text.endsWith(' ') ? 1 : -1), box.y, { steps: 4 });
  await page.mouse.up();
}

export class Hands {
  count = 0;
  constructor(readonly page: Page) {}

  private act(times = 1): void {
    this.count += times;
  }

  /** Finds a kind of step by typed letters and takes the first found. */
  async step(letters: string): Promise<void> {
    const steps = await this.page.getByRole('region', { name: 'Method' }).locator('ol > li').count();
    await this.page.keyboard.press('/');
    await this.page.getByRole('combobox', { name: 'What next?' }).fill(letters);
    await this.page.keyboard.press('Enter');
    this.act(2);
    await expect(this.page.getByRole('region', { name: 'Method' }).locator('ol > li')).toHaveCount(steps + 1);
    await this.settled(steps + 1);
  }

  /** Waits until the table after this step is in sight. */
  async settled(steps: number): Promise<void> {
    await expect(this.page.getByText(`after step ${steps} ·`)).toBeVisible();
    await still(tidy(this.page));
  }

  async mark(row: number, as: string, rule?: RegExp): Promise<void> {
    const tape = report(this.page).getByRole('button', { name: new RegExp(`^Row ${row}[,:]`) });
    await report(this.page).getByRole('button', { name: /^Row / }).first().waitFor();
    if ((await tape.count()) === 0) {
      this.act();
      await scrollTo(this.page, this.page.getByRole('region', { name: 'As received' }), tape, [0, 300]);
    }
    await tape.click();
    await this.page.getByRole('radio', { name: as, exact: true }).click();
    const rules = this.page.getByRole('list', { name: 'Rules' }).getByRole('button');
    await (rule === undefined ? rules.first() : rules.filter({ hasText: rule }).first()).click();
    this.act(3);
    await expect(this.page.getByRole('list', { name: 'Rules' })).toBeHidden();
  }

  async select(...columns: string[]): Promise<void> {
    for (const [k, name] of columns.entries()) {
      await this.head(name).click({ modifiers: k === 0 ? [] : ['Control'] });
      this.act();
    }
  }

  /** Selects columns from one to another. */
  async selectTo(from: string, to: string): Promise<void> {
    await this.intoSight(from);
    await this.head(from).click();
    await this.intoSight(to);
    await this.head(to).click({ modifiers: ['Shift'] });
    this.act(2);
  }

  /** Scrolls sideways until a column is in sight; one action, since a wheel is turned once. */
  private async intoSight(name: string): Promise<void> {
    // The columns of a new step may still be on their way; what is out of sight never comes on its own.
    const came = await this.head(name)
      .waitFor({ timeout: 2000 })
      .then(() => true)
      .catch(() => false);
    if (came) return;
    this.act();
    await scrollTo(this.page, tidy(this.page), this.head(name), [250, 0]);
  }

  private head(name: string) {
    return tidy(this.page)
      .getByRole('columnheader')
      .filter({ has: this.page.getByText(name, { exact: true }) });
  }

  async rename(from: string, to: string): Promise<void> {
    await this.head(from).dblclick();
    await this.page.getByRole('textbox', { name: `New name of ${from}` }).fill(to);
    await this.page.keyboard.press('Enter');
    this.act(2);
    await expect(this.head(to)).toBeVisible();
  }

  /** Renames columns side by side, going on with Tab; an empty name leaves the column as it is. */
  async renameFrom(first: string, ...names: readonly string[]): Promise<void> {
    await this.intoSight(first);
    await this.head(first).dblclick();
    this.act();
    for (const [k, name] of names.entries()) {
      const field = this.page.getByRole('textbox', { name: /^New name of/ });
      if (name !== '') await field.fill(name);
      await this.page.keyboard.press(k < names.length - 1 ? 'Tab' : 'Enter');
      this.act();
    }
    await expect(this.head(names.at(-1)!)).toBeVisible();
  }

  /** Picks a cell of the table by its row and the text in it. */
  async cell(text: string): Promise<void> {
    await tidy(this.page).getByRole('gridcell', { name: text, exact: true }).first().click();
    this.act();
  }

  /** Picks the first blank cell in sight of a column, counted from 0. */
  async blankCell(column: number): Promise<void> {
    await still(tidy(this.page));
    const cells = tidy(this.page).locator(`[data-cell$=":${column}"]`);
    const texts = await cells.allTextContents();
    await cells.nth(texts.indexOf('')).click();
    this.act();
  }

  /** Selects text inside a tidy cell with the mouse. */
  async selectText(key: string, text: string): Promise<void> {
    await dragOver(this.page, tidy(this.page).locator(`[data-cell="${key}"]`), text);
    this.act();
  }

  /** Names stretches of the sample line, one after the other. */
  async pieces(pieces: Readonly<Record<string, RegExp>>): Promise<void> {
    const line = this.page.getByRole('textbox', { name: 'Sample line' });
    for (const [name, pattern] of Object.entries(pieces)) {
      const found = pattern.exec((await line.textContent())!)!;
      await dragOver(this.page, line, found[0], found.index);
      await this.page.getByRole('textbox', { name: 'Name of the piece' }).fill(name);
      await this.page.keyboard.press('Enter');
      this.act(2);
      await expect(step(this.page, 1)).toContainText(`{${name}}`);
      await expect(this.page.getByRole('button', { name: `Piece ${name}:` })).toBeVisible();
    }
  }

  /** Takes an action of the bar, behind its menu if it has to. */
  async take(label: string | RegExp): Promise<void> {
    const bar = this.page.getByRole('toolbar', { name: 'Actions for what is selected' });
    await bar.getByRole('button', { name: 'Clear the selection' }).waitFor();
    await still(bar);
    const steps = await this.page.getByRole('region', { name: 'Method' }).locator('ol > li').count();
    const button = bar.getByRole('button', { name: label });
    if ((await button.count()) > 0) await button.first().click();
    else {
      await bar.getByRole('button', { name: 'More actions' }).click();
      await this.page.getByRole('menuitem', { name: label }).first().click();
      this.act();
    }
    this.act();
    await this.settled(steps + 1);
  }

  /** Writes into a blank of a sentence. */
  async blank(number: number, label: string, text: string): Promise<void> {
    await step(this.page, number)
      .getByRole('button', { name: new RegExp(`^${label}:`) })
      .click();
    const editor = this.page.getByRole('dialog', { name: label });
    await editor.getByRole('textbox').first().fill(text);
    await editor.getByRole('button', { name: 'Done' }).click();
    await expect(editor).toBeHidden();
    this.act(2);
  }
}
