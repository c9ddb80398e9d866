/** What texts of the finished table still hold that belongs in its own columns, or in their own rows. */

import { CellKind, type ColumnProfile, type TableProfile, textAt } from '../../glance/table-profile.ts';
import { walkedSteps } from '../../run/run.ts';
import { cellText } from '../../values/cell-text.ts';
import { groupedBy } from '../../values/grouped-by.ts';
import type { Remark, Reviewer } from './remark.ts';

/** Share of the texts of a column that must be written alike for the reviewers here to speak. */
const MOSTLY = 0.6;
/** Rows of a column that are looked at. */
const MAX_ROWS = 2000;
/** Texts that a form is seen in at least. */
const MIN_TEXTS = 4;

/** The filled texts of a column, row by row; none for a column that is typed. */
function textsOf(profile: TableProfile, column: ColumnProfile): string[] {
  const { type } = profile.table.fields[column.index]!.column;
  if (type !== 'text' && type !== 'received') return [];
  const texts: string[] = [];
  for (let r = 0; r < Math.min(profile.rows, MAX_ROWS); r++) {
    if (column.kinds[r] === CellKind.text || column.kinds[r] === CellKind.figure) texts.push(textAt(column, r));
  }
  return texts;
}

const share = (texts: readonly string[], test: (text: string) => boolean) =>
  texts.filter(test).length / Math.max(1, texts.length);

const WITH_MARK =
  /^[-+−]?\d[\d.,\s\u00a0\u202f]*(?:\s?\p{L}{1,4}\.?|\s?[%‰°*†‡§#²³¹]+|\s?\(?\p{L}{1,2}\)|\s?\([^)]{1,12}\))$/u;
const CODE_LIKE = /^0\d|^\d{1,4}\p{Lu}$/u;

/** Figures with a unit, a footnote mark or a second figure behind them. */
export const figuresWithMarks: Reviewer = {
  code: 'figures-with-marks',
  look: ({ profile }) =>
    profile.columns.flatMap((column): Remark[] => {
      const texts = textsOf(profile, column);
      const marked = texts.filter((text) => WITH_MARK.test(text) && !CODE_LIKE.test(text));
      const like = share(texts, (text) => WITH_MARK.test(text) || /^[-+−]?\d[\d.,\s]*$/.test(text));
      if (texts.length < MIN_TEXTS || marked.length === 0 || like < MOSTLY) return [];
      return [{ code: 'figures-with-marks', column: column.name, text: marked[0]! }];
    }),
};

/** Signs in place of a value: the value above, or none. */
export const signsAsValues: Reviewer = {
  code: 'signs-as-values',
  look: ({ profile }) =>
    profile.columns.flatMap((column): Remark[] => {
      const texts = textsOf(profile, column);
      const sign = texts.find((text) => /^["'`´″〃„“”«»=.…-]{1,3}$/.test(text));
      return sign === undefined || share(texts, (text) => /[\p{L}\d]/u.test(text)) < 0.1
        ? []
        : [{ code: 'signs-as-values', column: column.name, text: sign }];
    }),
};

/** Words of a text: numbers stand for one another. */
const wordsOf = (text: string) => text.split(/\s+/).map((word) => word.replace(/\d+/g, '#'));

/** Sentences that are built alike: what changes in them are values. */
export const textsOfOneForm: Reviewer = {
  code: 'texts-of-one-form',
  look: ({ profile }) =>
    profile.columns.flatMap((column): Remark[] => {
      const texts = [...new Set(textsOf(profile, column))].filter((text) => /\d/.test(text));
      const rows = texts.map(wordsOf).filter((words) => words.length >= 4);
      if (rows.length < MIN_TEXTS) return [];
      const [common] = [...groupedBy(rows, (words) => words.length).values()].sort((a, b) => b.length - a.length);
      if (common!.length < rows.length * 0.3) return [];
      const kept = common![0]!.filter(
        (word, k) => /\p{L}{2}/u.test(word) && common!.every((words) => words[k] === word),
      );
      return kept.length >= 2 ? [{ code: 'texts-of-one-form', column: column.name, text: texts[0]! }] : [];
    }),
};

/** Codes that go on others: '1.2' under '1'. The rows of the shorter ones may be groups or sums of the longer. */
/** Share of codes that are different where they number rows. */
const OWN_CODES = 0.9;

export const nestedCodes: Reviewer = {
  code: 'nested-codes',
  look: ({ profile }) =>
    profile.columns.slice(0, 4).flatMap((column): Remark[] => {
      const codes = Array.from(
        { length: Math.min(profile.rows, MAX_ROWS) },
        (_, r) => cellText(profile.table.fields[column.index]!.column, r)?.trim() ?? '',
      );
      // Figures come again, numbers of a plan do not.
      if (new Set(codes).size < codes.length * OWN_CODES) return [];
      if (codes.length < MIN_TEXTS || share(codes, (code) => /^\p{L}?\d+(?:[.\-/]\d+)*\.?$/u.test(code)) < 0.9)
        return [];
      // Straight behind a code stand those that go on it.
      const parents = codes.filter((code, r) => {
        const next = codes[r + 1];
        return (
          code !== '' &&
          next !== undefined &&
          next.length > code.length &&
          next.startsWith(code) &&
          /^[.\-/]/.test(next.slice(code.length))
        );
      });
      return parents.length >= 2 ? [{ code: 'nested-codes', column: column.name, text: parents[0]! }] : [];
    }),
};

/** Lines at the same place of several sheets that differ, and that no column holds. */
export const titlesDiffer: Reviewer = {
  code: 'titles-differ',
  look({ run, table }) {
    const kept = new Set(
      table.fields.flatMap(({ column }) =>
        Array.from({ length: Math.min(table.rows, MAX_ROWS) }, (_, r) => (cellText(column, r) ?? '').toLowerCase()),
      ),
    );
    const walked = walkedSteps(run, run.steps.length - 1);
    return walked.flatMap(({ run: step }, k): Remark[] => {
      const before = walked[k - 1]?.run.table;
      const beside = before?.fields.find((field) => field.nameOrigin === 'beside')?.column;
      if (before === undefined || beside === undefined) return [];
      const rows = step.aside.filter((pile) => pile.mark === 'title').flatMap((pile) => [...pile.rows]);
      const parts = [...groupedBy(rows, (r) => cellText(beside, r) ?? '').entries()];
      if (parts.length < 2) return [];
      const lines = parts.map(([name, own]) =>
        own.map((r) =>
          before.fields
            .filter((field) => field.nameOrigin !== 'beside')
            .map(({ column }) => cellText(column, r) ?? '')
            .filter((text) => text !== '' && !text.includes(name)),
        ),
      );
      const changed = lines[0]!.flatMap((cells, n) =>
        cells.filter((cell, c) => lines.every((other, p) => p === 0 || (other[n]?.[c] ?? cell) !== cell)),
      );
      const lost = changed.find((text) => !kept.has(text.toLowerCase()) && /\p{L}/u.test(text));
      return lost === undefined ? [] : [{ code: 'titles-differ', text: lost }];
    });
  },
};
