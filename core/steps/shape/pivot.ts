import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank, option } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { type Groups, groupRowMap, groupRows } from '../../rows/keys.ts';
import { compareTexts } from '../../rows/order.ts';
import type { Column } from '../../table/column.ts';
import { stackColumns, takeColumn } from '../../table/gather.ts';
import { groupMembers, type Members } from '../../table/grouped-rows.ts';
import { type ColumnOrigin, fromColumn, takenRows } from '../../table/origin.ts';
import { type Field, type Table, uniqueName } from '../../table/table.ts';
import { intVector } from '../../table/vectors.ts';
import { cellText } from '../../values/cell-text.ts';
import { counted, grouped } from '../../values/counted.ts';
import { monthNumber } from '../../values/month-names.ts';
import { oneCell } from '../cells/one-cell.ts';
import { MEASURE_WORDS, MEASURES, Measure, measure } from './aggregate.ts';

const MAX_COLUMNS = 16_384;
/** Up to this many cells are looked up directly. */
const MAX_CELLS = 200_000_000;

const Params = z.object({
  rows: ColumnSet.nullable()
    .default(null)
    .describe('What identifies a row; null: all columns that are not used otherwise'),
  names: z.array(columnName()).min(1).describe('Columns whose values name the new columns'),
  values: z
    .array(z.object({ column: columnName(), by: Measure.default('only') }))
    .min(1)
    .describe('What fills them'),
  join: z.string().default(' / ').describe('Stands between the parts of a new name'),
  template: z
    .string()
    .nullable()
    .default(null)
    .describe(
      "How a new name is made, columns in braces and {Value} for what fills it: '{Month} ({Value})'; null: joined",
    ),
  order: z.enum(['appearance', 'name']).default('appearance').describe('Order of the new columns'),
  empty: z.string().nullable().default(null).describe('What an empty cell holds, as text of its type; null: blank'),
});
type Params = z.infer<typeof Params>;

export const pivotWords: StepDescriptor<Params> = {
  kind: 'pivot',
  drops: true,
  title: 'Pivot',
  summary: 'Values of a column become columns: the only value in each, or a sum, mean, count and others',
  searchTerms: ['long to wide', 'rows to columns', 'crosstab', 'spread', 'cast wide', 'months across'],
  params: Params,
  headline: ({ names }) => `Pivot ${namesPhrase(names)} into columns`,
  sentence: (params) => [
    'Pivot on ',
    blank('names', params.names.join(', '), { as: 'names', label: 'Columns whose values name the new columns' }),
    ', filled with ',
    blank('values', params.values.map(({ column, by }) => `${MEASURE_WORDS[by]} of ${column}`).join(', '), {
      as: 'items',
      label: 'What fills the cells',
      fresh: { column: '', by: 'only' },
      fields: [
        {
          key: 'by',
          edit: {
            as: 'choice',
            label: 'Measure',
            choices: MEASURES.map((value) => ({ value, label: MEASURE_WORDS[value] })),
          },
        },
        { key: 'column', edit: { as: 'column', label: 'Column' } },
      ],
    }),
    '; a row for each ',
    blank('rows', params.rows === null ? 'of all others' : columnSetText(params.rows), {
      as: 'columns',
      label: 'What identifies a row',
      optional: true,
    }),
    ', names joined with ',
    blank('join', `'${params.join}'`, { as: 'text', label: 'Between the parts of a name' }),
    option(
      params.template === null || params.template === '',
      ', by the template ',
      blank('template', params.template ?? 'none', {
        as: 'text',
        label: 'Template of the new names',
        optional: true,
        hint: 'Columns in braces, {Value} for what fills the cells: {Month} ({Value})',
      }),
    ),
    ', in order of ',
    choiceBlank('order', params.order, 'Order of the new columns', [
      ['appearance', 'appearance'],
      ['name', 'name'],
    ]),
    ', empty cells ',
    blank('empty', params.empty ?? 'blank', { as: 'text', label: 'What an empty cell holds', optional: true }),
  ],
};

export const pivot = /* @__PURE__ */ stepKind<Params>(pivotWords, {
  start: (table, columns) => {
    const counted = table.fields.filter(({ column }) => column.type === 'number' || column.type === 'whole');
    const others = table.fields.filter((field) => field.nameOrigin !== 'beside' && !counted.includes(field));
    const last = table.fields.at(-1)?.name ?? '';
    const names = columns.length > 0 ? [...columns] : [others.at(-1)?.name ?? last];
    const value =
      counted.find((field) => !names.includes(field.name))?.name ??
      table.fields.findLast((field) => !names.includes(field.name))?.name ??
      last;
    return Params.parse({ names, values: [{ column: value }] });
  },
  run(input, params, context) {
    const names = params.names.map((name) => needColumn(input, name));
    const values = params.values.map(({ column }) => needColumn(input, column));
    const used = new Set([...names, ...values]);
    const rowColumns =
      params.rows === null
        ? input.fields.map((_, k) => k).filter((k) => !used.has(k))
        : chosenColumns(params.rows, input);
    const columnOf = (k: number) => input.fields[k]!.column;
    const rows = groupRows(rowColumns.map(columnOf), input.rows);
    const across = groupRows(names.map(columnOf), input.rows);
    if (across.count * values.length > MAX_COLUMNS) {
      throw new StepFailure(
        `${params.names.join(', ')} would name ${counted(across.count * values.length, 'column')}; at most ${grouped(MAX_COLUMNS)} fit in a table.`,
      );
    }
    context.progress(0.3);
    const taken = new Set<string>();
    const fields: Field[] = [];
    const origin: ColumnOrigin[] = [];
    const firsts = rows.first;
    const rowLists = groupRowMap(rows);
    for (const k of rowColumns) {
      const field = input.fields[k]!;
      fields.push({ ...field, name: uniqueName(field.name, taken), column: takeColumn(field.column, firsts) });
      origin.push(fromColumn(k, rowLists));
    }
    const notices: Notice[] = [];
    const order = columnOrder(input, names, across, params.order);
    const single = singleRows(rows, across, order.length);
    const cellRows = cellMembers(rows, across);
    const spread = params.values.map(({ by }, v) =>
      single === undefined || !PICKED.has(by) ? undefined : spreadValues(columnOf(values[v]!), rows, across),
    );
    order.forEach((group, place) => {
      const own = single?.[group];
      const members = own === undefined ? cellRows(group) : undefined;
      params.values.forEach(({ column, by }, v) => {
        const made =
          own !== undefined && PICKED.has(by)
            ? { column: spread[v]?.[group] ?? takeColumn(columnOf(values[v]!), own), several: [] }
            : measure(columnOf(values[v]!), by, members ?? membersOf(own!), column);
        const name = newName(input, names, across, group, params, column);
        const unique = uniqueName(name, taken);
        if (unique !== name)
          notices.push({ severity: 'warning', text: `named ${unique}, as ${name} was taken`, column: unique });
        if (made.several.length > 0) notices.push(severalNotice(made.several, unique));
        fields.push({
          name: unique,
          nameOrigin: 'named',
          column: fillEmpty(made.column, params.empty, own ?? rowsOf(members!), unique),
        });
        origin.push({
          cells: [
            {
              role: 'value',
              rows: own === undefined ? { kind: 'lists', ...members! } : takenRows(own),
              column: values[v]!,
            },
          ],
          name: names.map((k) => ({ role: 'name', rows: { kind: 'at', rows: [across.first[group]!] }, column: k })),
        });
      });
      context.progress(0.3 + (0.7 * (place + 1)) / order.length);
    });
    return { table: { rows: rows.count, fields }, origin, aside: [], notices };
  },
});

function severalNotice(several: readonly number[], name: string): Notice {
  return {
    severity: 'warning',
    text: `${counted(several.length, 'cell')} of ${name} met several values; choose a sum or another measure, or what else identifies a row`,
    column: name,
    rows: { of: 'after', rows: Int32Array.from(several) },
  };
}

/** For each group of columns the rows that meet in each of its cells, found in one pass for all. */
function cellMembers(rows: Groups, across: Groups): (group: number) => Members {
  let byColumn: Members | undefined;
  return (group) => {
    byColumn ??= groupMembers(across.of, across.count);
    const own = byColumn.items.subarray(byColumn.starts[group]!, byColumn.starts[group + 1]!);
    const starts = new Int32Array(rows.count + 1);
    for (const row of own) starts[rows.of[row]! + 1]!++;
    for (let g = 0; g < rows.count; g++) starts[g + 1]! += starts[g]!;
    const at = starts.slice(0, rows.count);
    const items = new Int32Array(own.length);
    for (const row of own) items[at[rows.of[row]!]!++] = row;
    return { starts, items };
  };
}

/** Measures that give the one row's own cell where only one row meets. */
const PICKED: ReadonlySet<Measure> = new Set(['only', 'first', 'last', 'min', 'max']);

/**
 * For each group of columns the one row that meets in each of its cells, or -1; undefined as soon as two meet in one,
 * when lists are needed.
 */
function singleRows(rows: Groups, across: Groups, groups: number): Int32Array[] | undefined {
  if (rows.count * groups > MAX_CELLS) return undefined;
  const found = Array.from({ length: groups }, () => new Int32Array(rows.count).fill(-1));
  for (let r = 0; r < rows.of.length; r++) {
    const cells = found[across.of[r]!]!;
    const cell = rows.of[r]!;
    if (cells[cell]! >= 0) return undefined;
    cells[cell] = r;
  }
  return found;
}

/**
 * The values of each new column, where no two meet in a cell: all columns in one pass, since each takes its values from
 * all over the table. Undefined for columns whose cells are more than values.
 */
function spreadValues(column: Column, rows: Groups, across: Groups): Column[] | undefined {
  if (column.type === 'text' || column.type === 'received' || column.unreadable !== undefined) return undefined;
  const { values, type } = column;
  const found = Array.from({ length: across.count }, () => new Float64Array(rows.count).fill(Number.NaN));
  for (let r = 0; r < values.length; r++) found[across.of[r]!]![rows.of[r]!] = values[r]!;
  return found.map((own) => ({ type, values: own }));
}

/** Lists of at most one row each. */
function membersOf(single: Int32Array): Members {
  const starts = new Int32Array(single.length + 1);
  for (let g = 0; g < single.length; g++) starts[g + 1] = starts[g]! + (single[g]! < 0 ? 0 : 1);
  return { starts, items: single.filter((row) => row >= 0) };
}

/** A row of each cell, or -1 where none meets. */
function rowsOf({ starts, items }: Members): Int32Array {
  return intVector(starts.length - 1, (g) => (starts[g] === starts[g + 1] ? -1 : items[starts[g]!]!));
}

function columnOrder(input: Table, names: readonly number[], across: Groups, order: Params['order']): number[] {
  const groups = Array.from({ length: across.count }, (_, group) => group);
  if (order === 'appearance') return groups;
  const parts = groups.map((group) => names.map((k) => cellText(input.fields[k]!.column, across.first[group]!) ?? ''));
  return groups.sort((a, b) => {
    for (let p = 0; p < names.length; p++) {
      const [x, y] = [parts[a]![p]!, parts[b]![p]!];
      // Months are in calendar order.
      const [m, n] = [monthNumber(x, 'any'), monthNumber(y, 'any')];
      const difference = m !== undefined && n !== undefined ? m - n : compareTexts(x, y, 'natural');
      if (difference !== 0) return difference;
    }
    return a - b;
  });
}

/** For each group of new columns, in their order, the first row that names it. */
export function namingRows(input: Table, params: Pick<Params, 'names' | 'order'>): number[] {
  const names = params.names.map((name) => needColumn(input, name));
  const across = groupRows(
    names.map((k) => input.fields[k]!.column),
    input.rows,
  );
  return columnOrder(input, names, across, params.order).map((group) => across.first[group]!);
}

function newName(
  input: Table,
  names: readonly number[],
  across: Groups,
  group: number,
  params: Params,
  column: string,
): string {
  const parts = names.map((k) => cellText(input.fields[k]!.column, across.first[group]!) ?? 'blank');
  if (params.template !== null && params.template !== '') {
    return params.template.replace(/\{([^{}]*)\}/g, (all, piece: string) => {
      const at = params.names.indexOf(piece.trim());
      if (at >= 0) return parts[at]!;
      if (piece.trim() === 'Value') return column;
      throw new StepFailure(
        `The template ${params.template} asks for ${all}, and the new names are made of ${params.names.join(', ')} and Value.`,
      );
    });
  }
  return [...parts, ...(params.values.length > 1 ? [column] : [])].join(params.join);
}

/** Cells in which no row meets hold the given text, read as the column's type. */
function fillEmpty(column: Column, empty: string | null, met: Int32Array, name: string): Column {
  if (empty === null) return column;
  const rows = met.length;
  const at = intVector(rows, (g) => (met[g]! < 0 ? rows : g));
  return takeColumn(stackColumns([column, oneCell(column, empty, name)]), at);
}
