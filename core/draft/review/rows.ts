/** Rows of the finished table that are no data, and data that lie on a pile. */

import { Seen, sightOf, textAt } from '../../glance/sight.ts';
import { walkedSteps } from '../../run/run.ts';
import { takeRows } from '../../table/gather.ts';
import { cellText } from '../../values/cell-text.ts';
import type { Remark, Reviewer, ReviewInput } from './remark.ts';

const PAGE = /^(?:page|seite|p[áa]gina|p[áa]g\.?|blatt|folio|sheet)\s*\d+(?:\s*(?:of|von|de|\/)\s*\d+)?$/i;

/** Dots that lead to the next column. */
const LEADER = /\S\s*([.·_-])\1{3,}$/;

export const headerInRows: Reviewer = {
  code: 'header-in-rows',
  look: ({ sight }) =>
    sight.columns.flatMap((column): Remark[] => {
      const name = column.name.toLowerCase();
      let rows = 0;
      for (let r = 0; r < sight.rows; r++) if (textAt(column, r).toLowerCase() === name) rows++;
      return rows === 0 ? [] : [{ code: 'header-in-rows', column: column.name, rows }];
    }),
};

export const furnitureInRows: Reviewer = {
  code: 'furniture-in-rows',
  look: ({ sight }) =>
    sight.columns.flatMap((column): Remark[] => {
      for (let r = 0; r < sight.rows; r++) {
        const text = textAt(column, r);
        if (PAGE.test(text) || LEADER.test(text) || column.kinds[r] === Seen.rule)
          return [{ code: 'furniture-in-rows', column: column.name, text }];
      }
      return [];
    }),
};

export const gapsInKeys: Reviewer = {
  code: 'gaps-in-keys',
  look({ sight, run }) {
    // Nested and typed files say themselves what is blank.
    if (run.steps[0]!.step.kind === 'read-nested' || run.steps[0]!.step.kind === 'read-tables') return [];
    // Columns of words in front of the first figures.
    const figures = sight.columns.findIndex((column) => column.counts[Seen.figure]! > 0);
    return sight.columns.slice(0, Math.max(1, figures)).flatMap((column): Remark[] => {
      const blank = column.counts[Seen.blank]!;
      return blank > 0 && blank < sight.rows ? [{ code: 'gaps-in-keys', column: column.name, rows: blank }] : [];
    });
  },
};

export const oneRowLeft: Reviewer = {
  code: 'one-row-left',
  look: ({ sight }) => (sight.rows === 1 ? [{ code: 'one-row-left' }] : []),
};

/** Rows set aside as notes, titles or others that fill as many cells as rows of the table do. */
export const asideLikeRows: Reviewer = {
  code: 'aside-like-rows',
  look: ({ run }) =>
    [...piles(run)].flatMap(({ before, pile, kept }): Remark[] => {
      if (pile.mark === 'total' || pile.mark === 'header' || pile.mark === 'label' || pile.columns !== undefined)
        return [];
      const own = pile.rows.slice(0, MAX_PILE);
      const sight = sightOf(takeRows(before, Int32Array.from([...own, ...kept])));
      const behind = [...kept.keys()].map((k) => own.length + k);
      const usual = median(behind.map((r) => sight.filled[r]!));
      const figures = median(behind.map((r) => sight.figures[r]!));
      const isNotes = pile.mark === 'note' && pile.name !== 'units';
      const alike = [...own.keys()].filter(
        (r) =>
          sight.filled[r]! >= usual * 0.8 &&
          ((sight.figures[r]! >= figures * 0.8 && figures > 0) || (isNotes && sight.filled[r]! >= 3)),
      );
      return alike.length === 0 ? [] : [{ code: 'aside-like-rows', pile: pile.name, rows: alike.length }];
    }),
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
      const sight = sightOf(own);
      // A title that repeats the name of its sheet says nothing more.
      const beside = own.fields.filter((field) => field.standing === 'beside');
      for (let r = 0; r < own.rows; r++) {
        const known = beside.map(({ column }) => cellText(column, r) ?? '').filter((text) => text !== '');
        const cells = sight.columns.map((column) => textAt(column, r)).filter((text) => text !== '');
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

function* piles(run: ReviewInput['run']) {
  const walked = walkedSteps(run, run.steps.length - 1);
  for (const [k, { run: step }] of walked.entries()) {
    const before = walked[k - 1]?.run.table;
    if (before === undefined) continue;
    const away = new Set(step.aside.flatMap((one) => [...one.rows]));
    const kept = Array.from({ length: Math.min(before.rows, MAX_PILE) }, (_, r) => r).filter((r) => !away.has(r));
    for (const pile of step.aside) {
      yield { before, pile, kept };
    }
  }
}

function median(values: number[]): number {
  values.sort((a, b) => a - b);
  return values[values.length >> 1] ?? 0;
}
