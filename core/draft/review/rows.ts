/** Rows of the finished table that are no data, and data that lie on a pile. */

import { DERIVED_PILES } from '../../findings/derived-rows.ts';
import { CellKind, distinctTexts, isFilled, profileTable, textAt } from '../../glance/table-profile.ts';
import { chosenColumns } from '../../kinds/column-set.ts';
import { walkedSteps } from '../../run/run.ts';
import { unpivot } from '../../steps/shape/unpivot.ts';
import { takeRows } from '../../table/gather.ts';
import { cellText } from '../../values/cell-text.ts';
import { groupedBy } from '../../values/grouped-by.ts';
import type { Remark, Reviewer, ReviewInput } from './remark.ts';

const PAGE = /^(?:page|seite|p[áa]gina|p[áa]g\.?|blatt|folio|sheet)\s*\d+(?:\s*(?:of|von|de|\/)\s*\d+)?$/i;

/** Dots that lead to the next column. */
const LEADER = /\S\s*([.·_-])\1{3,}$/;

export const headerInRows: Reviewer = {
  code: 'header-in-rows',
  look: ({ profile }) =>
    profile.columns.flatMap((column): Remark[] => {
      const name = column.name.toLowerCase();
      let rows = 0;
      for (let r = 0; r < profile.rows; r++) if (textAt(column, r).toLowerCase() === name) rows++;
      return rows === 0 ? [] : [{ code: 'header-in-rows', column: column.name, rows }];
    }),
};

export const furnitureInRows: Reviewer = {
  code: 'furniture-in-rows',
  look: ({ profile }) =>
    profile.columns.flatMap((column): Remark[] => {
      for (let r = 0; r < profile.rows; r++) {
        const text = textAt(column, r);
        if (PAGE.test(text) || LEADER.test(text) || column.kinds[r] === CellKind.rule)
          return [{ code: 'furniture-in-rows', column: column.name, text }];
      }
      return [];
    }),
};

export const gapsInKeys: Reviewer = {
  code: 'gaps-in-keys',
  look({ profile, run }) {
    // Nested and typed files say themselves what is blank.
    if (run.steps[0]!.step.kind === 'read-nested' || run.steps[0]!.step.kind === 'read-tables') return [];
    // Columns of words in front of the first figures.
    const figures = profile.columns.findIndex((column) => column.counts[CellKind.figure]! > 0);
    return profile.columns.slice(0, Math.max(1, figures)).flatMap((column): Remark[] => {
      const blank = column.counts[CellKind.blank]!;
      return blank > 0 && blank < profile.rows ? [{ code: 'gaps-in-keys', column: column.name, rows: blank }] : [];
    });
  },
};

export const oneRowLeft: Reviewer = {
  code: 'one-row-left',
  look: ({ profile }) => (profile.rows === 1 ? [{ code: 'one-row-left' }] : []),
};

/** Rows set aside as notes, titles or others that fill as many cells as rows of the table do. */
export const asideLikeRows: Reviewer = {
  code: 'aside-like-rows',
  look: ({ run }) =>
    [...piles(run)].flatMap(({ before, pile, kept }): Remark[] => {
      if (pile.mark === 'total' || pile.mark === 'header' || pile.mark === 'label' || pile.columns !== undefined)
        return [];
      // Arithmetic shows that these follow from the totals.
      if (DERIVED_PILES.includes(pile.name)) return [];
      const own = pile.rows.slice(0, MAX_PILE);
      const profile = profileTable(takeRows(before, Int32Array.from([...own, ...kept])));
      const behind = [...kept.keys()].map((k) => own.length + k);
      const usual = median(behind.map((r) => profile.filled[r]!));
      const figures = median(behind.map((r) => profile.figures[r]!));
      const isNotes = pile.mark === 'note' && pile.name !== 'units';
      const alike = [...own.keys()].filter(
        (r) =>
          profile.filled[r]! >= usual * 0.8 &&
          ((profile.figures[r]! >= figures * 0.8 && figures > 0) || (isNotes && profile.filled[r]! >= 3)),
      );
      return alike.length === 0 ? [] : [{ code: 'aside-like-rows', pile: pile.name, rows: alike.length }];
    }),
};

export const pageHeadsDiffer: Reviewer = {
  code: 'page-heads-differ',
  look({ run }) {
    const titles: string[][] = [];
    for (const { before, pile } of piles(run)) {
      if (pile.name !== 'page heads' && pile.name !== 'titles') continue;
      const profile = profileTable(takeRows(before, pile.rows.slice(0, MAX_PILE)));
      const own = Array.from({ length: profile.rows }, (_, r) =>
        profile.columns.map((column) => textAt(column, r)).filter((text) => text !== ''),
      );
      if (pile.name === 'titles') {
        titles.push(...own);
        continue;
      }
      // The first of them stands above the first header, among the titles.
      const shapes = new Set(own.map(shapeOf));
      const texts = [...titles.filter((line) => shapes.has(shapeOf(line))), ...own];
      const alike = groupedBy(texts, ([first]) => (first ?? '').replace(/\d+/g, '#'));
      for (const lines of alike.values()) {
        const told = lines.map((line) => line.join(' '));
        if (new Set(told).size > 1 && !isNumbered(told)) return [{ code: 'page-heads-differ', text: told[1]! }];
      }
    }
    return [];
  },
};

const shapeOf = (line: readonly string[]) => line.join(' ').replace(/\d+/g, '#');

/** Lines differ by one number alone, which counts up as pages do: other numbers tell what the rows below belong to. */
function isNumbered(lines: readonly string[]): boolean {
  if (new Set(lines.map((line) => line.replace(/\d+/g, '#'))).size > 1) return false;
  const numbers = lines.map((line) => (line.match(/\d+/g) ?? []).map(Number));
  const varying = numbers[0]!.flatMap((_, k) => (new Set(numbers.map((own) => own[k])).size > 1 ? [k] : []));
  return (
    varying.length === 1 &&
    numbers.every((own, n) => n === 0 || own[varying[0]!]! === numbers[n - 1]![varying[0]!]! + 1)
  );
}

export const textDropped: Reviewer = {
  code: 'text-dropped',
  look({ run }) {
    const walked = walkedSteps(run, run.steps.length - 1);
    return walked.flatMap(({ run: step }, k): Remark[] => {
      const before = walked[k - 1]?.run.table;
      const { params, kind } = step.step;
      if (kind !== 'unpivot' || params['blanks'] !== 'drop' || before === undefined) return [];
      const going = new Set(chosenColumns(unpivot.params.parse(params).columns, before));
      const profile = profileTable(before);
      const stays = profile.columns.filter(({ index }) => !going.has(index));
      const lone = [...Array(Math.min(profile.rows, MAX_PILE)).keys()].filter(
        (r) => profile.filled[r] === 1 && stays.some((column) => isFilled(column, r)),
      );
      const column = stays.find((one) => lone[0] !== undefined && isFilled(one, lone[0]));
      if (column === undefined) return [];
      // What still stands in the rows that came of it is not lost.
      const kept = new Set(profileTable(step.table).columns.flatMap((one) => distinctTexts(one, MAX_PILE)));
      if (lone.every((r) => kept.has(textAt(column, r)))) return [];
      return [{ code: 'text-dropped', column: column.name, text: textAt(column, lone[0]!), rows: lone.length }];
    });
  },
};

const PAIR = /^\p{L}[\p{L}\s./-]{1,30}:\s*\S/u;

/** Lines above or between the rows that name a value, where the same name stands again with another value. */
export const unusedPair: Reviewer = {
  code: 'unused-pair',
  look({ run }) {
    const values = new Map<string, Set<string>>();
    const note = (text: string) => {
      const at = text.indexOf(':');
      const name = text.slice(0, at).trim().toLowerCase();
      values.set(name, (values.get(name) ?? new Set()).add(text.slice(at + 1).trim()));
      return values.get(name)!.size > 1 ? text : undefined;
    };
    let told: string | undefined;
    for (const { before, pile } of piles(run)) {
      if (pile.mark === 'total' || pile.columns !== undefined) continue;
      const own = takeRows(before, pile.rows.slice(0, MAX_PILE));
      const profile = profileTable(own);
      // A title that repeats the name of its sheet says nothing more.
      const beside = own.fields.filter((field) => field.nameOrigin === 'beside');
      for (let r = 0; r < own.rows; r++) {
        const known = beside.map(({ column }) => cellText(column, r) ?? '').filter((text) => text !== '');
        const cells = profile.columns.map((column) => textAt(column, r)).filter((text) => text !== '');
        for (const [k, cell] of cells.entries()) {
          if (known.some((text) => cell.includes(text))) continue;
          if (PAIR.test(cell)) told ??= note(cell);
          else if (/:$/.test(cell) && cells[k + 1] !== undefined) told ??= note(`${cell} ${cells[k + 1]}`);
        }
      }
    }
    return told === undefined ? [] : [{ code: 'unused-pair', text: told }];
  },
};

/** Rows of a pile, and of the table beside it, that are looked at. */
const MAX_PILE = 1000;
/** Rows that stay, beside which those of a pile are held. */
const MAX_KEPT = 300;

function* piles(run: ReviewInput['run']) {
  const walked = walkedSteps(run, run.steps.length - 1);
  for (const [k, { run: step }] of walked.entries()) {
    const before = walked[k - 1]?.run.table;
    if (before === undefined) continue;
    const away = new Set(step.aside.flatMap((one) => [...one.rows]));
    const kept = Array.from({ length: Math.min(before.rows, MAX_KEPT) }, (_, r) => r).filter((r) => !away.has(r));
    for (const pile of step.aside) {
      yield { before, pile, kept };
    }
  }
}

function median(values: number[]): number {
  values.sort((a, b) => a - b);
  return values[values.length >> 1] ?? 0;
}
