import { z } from 'zod';
import { columnName } from '../../kinds/param-marks.ts';
import { blank } from '../../kinds/sentence.ts';
import { type Pile, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { runStarts } from '../../rules/placed.ts';
import { PlainRule, ruleMask, ruleText, withinText } from '../../rules/rules.ts';
import { unseenMask } from '../../table/column.ts';
import { takeColumn } from '../../table/gather.ts';
import { type ColumnOrigin, fromColumn, takenRows } from '../../table/origin.ts';
import { columnLetters, type Field, type Table, uniqueName } from '../../table/table.ts';
import { cellText } from '../../values/cell-text.ts';
import { counted } from '../../values/counted.ts';
import { gatherCells } from '../gathered.ts';
import { guessHeader } from '../header/guess-header.ts';
import { idleNotice } from '../result.ts';

const Params = z.object({
  at: PlainRule.describe('The header row, in which the names of each of the tables stand'),
  within: columnName().optional().describe('Column in whose every run tables are searched for separately'),
});
type Params = z.infer<typeof Params>;

export const stackBesideWords: StepDescriptor<Params> = {
  kind: 'stack-beside',
  title: 'Stack tables that stand beside each other',
  summary: 'Stacks tables that are side by side, each with its header and the lines above it',
  searchTerms: ['side by side', 'two tables', 'blocks of columns', 'beside', 'parallel tables', 'left and right'],
  params: Params,
  headline: () => 'Stack tables that are side by side',
  sentence: (params) => [
    'Stack tables that are side by side, header where ',
    blank('at', ruleText(params.at), { as: 'rule', label: 'Header row' }),
    blank('within', withinText(params.within) || ' once', {
      as: 'column',
      label: 'Searched in each',
      optional: true,
    }),
  ],
};

export const stackBeside = /* @__PURE__ */ stepKind<Params>(stackBesideWords, {
  start: (table, columns) => {
    const { row, tiers } = guessHeader(table);
    const at = row + tiers - 1;
    const named = (field: Field) => at < table.rows && (cellText(field.column, at)?.trim() ?? '') !== '';
    const field =
      table.fields.find((one) => one.name === columns[0] && named(one)) ??
      table.fields.find((one) => one.nameOrigin !== 'beside' && named(one));
    const within = table.fields.find((one) => one.nameOrigin === 'beside')?.name;
    const text = field === undefined ? '' : cellText(field.column, at)!;
    return {
      at: { test: 'equals', column: field?.name ?? '', text },
      ...(within === undefined ? {} : { within }),
    };
  },
  run(input, params) {
    const anchor = ruleMask(params.at, input);
    const starts = runStarts(input, params.within);
    const own = input.fields.flatMap((field, k) => (field.nameOrigin === 'beside' ? [] : [k]));
    const beside = input.fields.flatMap((field, k) => (field.nameOrigin === 'beside' ? [k] : []));
    const unseen = own.map((k) => unseenMask(input.fields[k]!.column));
    const rows: number[] = [];
    const blocks: (readonly number[])[] = [];
    const blanks: number[] = [];
    let most = 0;
    let found = false;
    for (let run = 0; run + 1 < starts.length; run++) {
      const [from, to] = [starts[run]!, starts[run + 1]!];
      const header = anchor.indexOf(1, from);
      const tables = header < 0 || header >= to ? [own.map((_, k) => k)] : tablesOf(input, own, unseen, header, to);
      if (header >= from && header < to) found = true;
      most = Math.max(most, tables.length);
      const filled = new Uint8Array(to - from);
      // What stands below all of the tables, as notes do, comes last and not between them.
      const end = tables.length < 2 ? to : endOf(tables, unseen, header, to);
      for (const table of tables)
        for (let r = from; r < end; r++) {
          if (table.every((k) => unseen[k]![r] === 1)) continue;
          filled[r - from] = 1;
          rows.push(r);
          blocks.push(table);
        }
      for (let r = end; r < to; r++) {
        const used = own.map((_, k) => k).filter((k) => unseen[k]![r] === 0);
        if (used.length === 0) continue;
        filled[r - from] = 1;
        rows.push(r);
        blocks.push(own.map((_, k) => k).slice(Math.min(used[0]!, tables[0]![0]!), used.at(-1)! + 1));
      }
      for (let r = from; r < to; r++) if (filled[r - from] === 0) blanks.push(r);
    }
    if (!found && input.rows > 0)
      throw new StepFailure(`No row where ${ruleText(params.at)}, so there are no tables to tell apart.`);
    const taken = Int32Array.from(rows);
    const names = new Set<string>();
    const fields: Field[] = [];
    const origin: ColumnOrigin[] = [];
    for (const k of beside) {
      fields.push({
        ...input.fields[k]!,
        name: uniqueName(input.fields[k]!.name, names),
        column: takeColumn(input.fields[k]!.column, taken),
      });
      origin.push(fromColumn(k, takenRows(taken)));
    }
    const width = Math.max(0, ...blocks.map((table) => table.length));
    for (let c = 0; c < width; c++) {
      const columns = Int32Array.from(blocks, (table) => (table[c] === undefined ? -1 : own[table[c]!]!));
      const made = gatherCells(input, columns, taken);
      fields.push({ name: uniqueName(columnLetters(c), names), nameOrigin: 'position', column: made.column });
      origin.push(made.origin);
    }
    const aside: Pile[] = blanks.length === 0 ? [] : [{ name: 'blanks', mark: 'blank', rows: Int32Array.from(blanks) }];
    return {
      table: { rows: taken.length, fields },
      origin,
      aside,
      notices: [
        most < 2
          ? idleNotice('only one table stands under the header')
          : { severity: 'info', text: `${counted(most, 'table')} side by side, now one under the other` },
      ],
    };
  },
});

/** The first row below the tables: behind the blank row that follows the last row which two of them share. */
function endOf(
  tables: readonly (readonly number[])[],
  unseen: readonly Uint8Array[],
  header: number,
  to: number,
): number {
  const filledIn = (r: number) => tables.filter((table) => table.some((k) => unseen[k]![r] === 0)).length;
  let last = header;
  for (let r = header; r < to; r++) if (filledIn(r) >= 2) last = r;
  let end = last + 1;
  while (end < to && filledIn(end) > 0) end++;
  return end;
}

/** Columns of each table: parted by columns that are blank from the header down, or where the header begins again. */
function tablesOf(
  input: Table,
  own: readonly number[],
  unseen: readonly Uint8Array[],
  header: number,
  to: number,
): number[][] {
  const blankBelow = (k: number) => {
    for (let r = header; r < to; r++) if (unseen[k]![r] === 0) return false;
    return true;
  };
  const first = own.map((k) => cellText(input.fields[k]!.column, header)?.trim() ?? '').find((text) => text !== '');
  const tables: number[][] = [];
  let current: number[] | undefined;
  own.forEach((field, k) => {
    if (blankBelow(k)) {
      current = undefined;
      return;
    }
    const name = cellText(input.fields[field]!.column, header)?.trim() ?? '';
    if (current === undefined || (name !== '' && name === first)) {
      current = [];
      tables.push(current);
    }
    current.push(k);
  });
  return tables;
}
