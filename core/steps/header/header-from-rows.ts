import { z } from 'zod';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank, option } from '../../kinds/sentence.ts';
import { type Notice, type Pile, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { runStarts } from '../../rules/placed.ts';
import { PlainRule, ruleMask, ruleText, withinText } from '../../rules/rules.ts';
import { invertMask, maskedRows, takeColumn, takeRows } from '../../table/gather.ts';
import { type CellSource, fromColumn, nameOf, type Origin, takenRows } from '../../table/origin.ts';
import { type Table, uniqueName } from '../../table/table.ts';
import { intVector } from '../../table/vectors.ts';
import { cellText, rowsReading, textView } from '../../values/cell-text.ts';
import { counted } from '../../values/counted.ts';
import { guessHeader } from './guess-header.ts';
import { gatherMet, headerRowOf, isUniform, metColumns, metNotices, plainName, type Run } from './meet-by-name.ts';
import { tellNumbered } from './renaming.ts';

const Params = z.object({
  rows: z.number().int().min(1).max(20).default(1).describe('Tiers of the header'),
  at: PlainRule.nullable().default(null).describe('What stands in its first row; null: the first row of the table'),
  join: z.string().default(' / ').describe('Stands between the tiers'),
  fillAcross: z.boolean().default(true).describe('Upper tiers are filled across blanks and merges'),
  above: z.boolean().default(true).describe('Rows above the header are set aside as titles'),
  within: columnName()
    .optional()
    .describe('Column in whose every run its own header is searched for; the columns of the runs meet by name'),
  repeats: z.boolean().default(true).describe('Repeats of the header further down are set aside'),
  corner: z
    .string()
    .min(1)
    .optional()
    .describe(
      'Name of a new column for the first cell of the header and of its repeats, which labels the rows below and may differ',
    ),
});
type Params = z.infer<typeof Params>;

export const headerFromRowsWords: StepDescriptor<Params> = {
  kind: 'header-from-rows',
  drops: true,
  title: 'Header from rows',
  summary: 'One or more rows become the column names; upper tiers are filled across and joined',
  searchTerms: [
    'promote header',
    'column names',
    'first row as header',
    'two-row header',
    'merged header',
    'field names',
  ],
  params: Params,
  headline: ({ rows }) => (rows === 1 ? 'Header from 1 row' : `Header from ${rows} rows`),
  sentence: (params) => [
    'Header from ',
    blank('rows', counted(params.rows, 'row'), { as: 'count', label: 'Rows of the header', least: 1, most: 20 }),
    params.at === null ? ', ' : ' where ',
    blank('at', params.at === null ? 'the first' : ruleText(params.at), {
      as: 'rule',
      label: 'Found where',
      optional: true,
    }),
    ...(params.rows > 1
      ? [
          ', joined with ',
          blank('join', `'${params.join}'`, { as: 'text', label: 'Between the tiers' }),
          ', upper tiers ',
          choiceBlank('fillAcross', params.fillAcross, 'Upper tiers', [
            [true, 'filled across'],
            [false, 'as they stand'],
          ]),
        ]
      : []),
    '; rows above ',
    choiceBlank('above', params.above, 'Rows above the header', [
      [true, 'set aside as titles'],
      [false, 'kept'],
    ]),
    blank('within', withinText(params.within) || ' once', {
      as: 'column',
      label: 'Searched in each',
      optional: true,
    }),
    ', repeats ',
    choiceBlank('repeats', params.repeats, 'Repeats of the header', [
      [true, 'set aside'],
      [false, 'kept'],
    ]),
    option(
      params.corner === undefined,
      ', first cell of each carried as ',
      blank('corner', params.corner ?? 'no column', {
        as: 'text',
        label: 'Name of the column for the first cell',
        optional: true,
      }),
    ),
  ],
};

export const headerFromRows = /* @__PURE__ */ stepKind<Params>(headerFromRowsWords, {
  start: (table) => {
    const beside = table.fields.find((field) => field.nameOrigin === 'beside');
    const { row, tiers } = guessHeader(table);
    return Params.parse({
      rows: tiers,
      at: row === 0 ? null : ruleOfRow(table, row),
      ...(beside === undefined ? {} : { within: beside.name }),
    });
  },
  run(input, params) {
    const top = findHeader(input, params);
    const runs = runsOf(input, params, top);
    const headers = runs.filter((run) => run.top >= 0);
    const corner = params.corner === undefined ? -1 : cornerOf(input, tiersAt(top, params));
    const naming = new Uint8Array(input.rows);
    const repeats = new Uint8Array(input.rows);
    naming.fill(1, top, top + params.rows);
    for (const run of headers) {
      const own = run.top === top ? naming : repeats;
      if (run.top === top || params.repeats) own.fill(1, run.top, run.top + params.rows);
      if (!params.repeats) continue;
      for (const start of repeatStarts(input, run, params.rows, corner)) repeats.fill(1, start, start + params.rows);
    }
    const titles = params.above ? rowsAbove(input, headers) : new Uint8Array(input.rows);
    const rows = rowsBeside(input.rows, [naming, repeats, titles]);
    const aside: Pile[] = [];
    for (const [name, mark, mask] of [
      ['titles', 'title', titles],
      ['headers', 'header', naming],
      ['repeats', 'repeat', repeats],
    ] as const) {
      const gone = maskedRows(mask);
      if (gone.length > 0) aside.push({ name, mark, rows: gone });
    }
    const { table, origin, notices } =
      runs.length > 1 ? metTable(input, runs, rows, params, top) : plainTable(input, rows, params, top);
    const headed = { table, origin, notices };
    if (corner >= 0)
      carryCorner(
        input,
        headed,
        corner,
        rows,
        naming.map((is, r) => is | repeats[r]!),
        params,
      );
    return { ...headed, aside };
  },
});

/** Rows that are in none of the masks. Mostly these are all rows from some row on. */
function rowsBeside(count: number, masks: readonly Uint8Array[]): Int32Array {
  const last = Math.max(...masks.map((mask) => mask.lastIndexOf(1)));
  let first = 0;
  while (first <= last && masks.some((mask) => mask[first] === 1)) first++;
  if (first > last) return intVector(count - first, (k) => first + k);
  const away = new Uint8Array(count);
  for (const mask of masks) for (let r = 0; r <= last; r++) away[r]! |= mask[r]!;
  return maskedRows(invertMask(away));
}

/** The first column that the header fills. */
function cornerOf(table: Table, tiers: readonly number[]): number {
  return table.fields.findIndex(
    (field) => field.nameOrigin !== 'beside' && tiers.some((row) => (cellText(field.column, row) ?? '').trim() !== ''),
  );
}

/** Puts what the corner of the header above each row says into a column in front; its own column is named by its place. */
function carryCorner(
  input: Table,
  headed: Headed,
  corner: number,
  rows: Int32Array,
  isHeader: Uint8Array,
  params: Params,
): void {
  const { column, name: place } = input.fields[corner]!;
  const above = new Int32Array(input.rows).fill(-1);
  let last = -1;
  for (let r = 0; r < input.rows; r++) {
    if (isHeader[r] === 1 && (cellText(column, r) ?? '').trim() !== '') last = r;
    above[r] = last;
  }
  const labels = rows.map((row) => above[row]!);
  const fields = [...headed.table.fields];
  const others = new Set(fields.filter((_, k) => k !== corner).map(({ name }) => name));
  fields[corner] = { ...fields[corner]!, name: uniqueName(place, others) };
  others.add(fields[corner]!.name);
  const at = Math.max(
    0,
    fields.findIndex((field) => field.nameOrigin !== 'beside'),
  );
  fields.splice(at, 0, {
    name: uniqueName(params.corner!, others),
    nameOrigin: 'beside',
    column: takeColumn(column, labels),
  });
  headed.table = { rows: headed.table.rows, fields };
  const label = { cells: [{ role: 'label' as const, rows: takenRows(labels), column: corner }], name: [] };
  headed.origin = [...headed.origin.slice(0, at), label, ...headed.origin.slice(at)];
}

interface Headed {
  table: Table;
  origin: Origin;
  notices: Notice[];
}

/** All rows under one header. */
function plainTable(input: Table, rows: Int32Array, params: Params, top: number): Headed {
  const named = nameColumns(input, tiersAt(top, params), params);
  const body = takeRows(input, rows);
  return {
    table: {
      rows: body.rows,
      fields: body.fields.map((field, k) => ({
        ...field,
        name: named.names[k]!,
        nameOrigin: field.nameOrigin === 'position' ? ('named' as const) : field.nameOrigin,
      })),
    },
    origin: named.sources.map((name, k) => ({ cells: fromColumn(k, takenRows(rows)).cells, name })),
    notices: named.notices,
  };
}

/** Rows under separate headers: columns meet by name where they do not stand alike. */
function metTable(input: Table, runs: readonly Run[], rows: Int32Array, params: Params, top: number): Headed {
  const names = runs.map((run) =>
    run.top < 0 ? { texts: [], sources: [] } : composedNames(input, tiersAt(run.top, params), params),
  );
  const met = metColumns(input, runs, names);
  const notices = metNotices(runs, met);
  const positions = input.fields.filter((field) => field.nameOrigin !== 'beside').length;
  if (isUniform(met, positions)) {
    const plain = plainTable(input, rows, params, top);
    return { ...plain, notices: [...plain.notices, ...notices] };
  }
  const { fields, origin } = gatherMet(input, rows, runs, met);
  return { table: { rows: rows.length, fields }, origin, notices };
}

function tiersAt(top: number, params: Params): number[] {
  return Array.from({ length: params.rows }, (_, k) => top + k);
}

/** The sheets or files that stand one under the other, each with its header; one run of all rows where none are distinguished. */
function runsOf(table: Table, params: Params, top: number): Run[] {
  const starts = runStarts(table, params.within);
  if (starts.length <= 2) return [{ title: '', from: 0, to: table.rows, top }];
  const { codes, texts } = textView(table.fields.find((field) => field.name === params.within)!.column);
  const lowest = tiersAt(top, params).at(-1)!;
  const wanted = new Set(
    table.fields
      .filter((field) => field.nameOrigin !== 'beside')
      .map((field) => plainName(cellText(field.column, lowest) ?? ''))
      .filter((text) => text !== ''),
  );
  return starts.slice(0, -1).map((from, k) => {
    const to = starts[k + 1]!;
    const own = top >= from && top < to ? top : headerRowOf(table, { from, to }, wanted, params.rows);
    return { title: texts[codes[from]!] ?? 'the rows without a name', from, to, top: own };
  });
}

function findHeader(table: Table, params: Params): number {
  const first = params.at === null ? 0 : ruleMask(params.at, table).indexOf(1);
  if (first < 0) {
    throw new StepFailure(`No row where ${ruleText(params.at!)}, so there is no header to take the names from.`);
  }
  if (first + params.rows > table.rows) {
    throw new StepFailure(
      `The header needs ${counted(params.rows, 'row')} from row ${first + 1} on, but the table has ${counted(table.rows, 'row')}.`,
    );
  }
  return first;
}

/** First rows of the blocks further down a run that read like its header in every column of the report but the corner, -1 for none. */
function repeatStarts(table: Table, { top, to }: Run, tiers: number, corner: number): number[] {
  const columns = table.fields
    .filter((field, k) => field.nameOrigin !== 'beside' && k !== corner)
    .map((field) => field.column);
  // One column tells which rows may be: the others are looked at there alone.
  const lead = columns.find((column) => cellText(column, top) !== null);
  if (lead === undefined) return [];
  const isFirst = rowsReading(lead, cellText(lead, top)!);
  const starts: number[] = [];
  for (let r = top + tiers; r + tiers <= to; r++) {
    if (isFirst[r] === 0) continue;
    const same = columns.every((column) => {
      for (let k = 0; k < tiers; k++) if (cellText(column, top + k) !== cellText(column, r + k)) return false;
      return true;
    });
    if (!same) continue;
    starts.push(r);
    r += tiers - 1;
  }
  return starts;
}

function rowsAbove(table: Table, runs: readonly Run[]): Uint8Array {
  const mask = new Uint8Array(table.rows);
  for (const { from, top } of runs) mask.fill(1, from, top);
  return mask;
}

interface Named {
  names: string[];
  sources: CellSource[][];
  notices: Notice[];
}

function nameColumns(table: Table, tiers: readonly number[], params: Params): Named {
  const taken = new Set(table.fields.filter((field) => field.nameOrigin === 'beside').map((field) => field.name));
  const numbered: string[] = [];
  const { texts, sources } = composedNames(table, tiers, params);
  const names = table.fields.map((field, k) => {
    if (field.nameOrigin === 'beside') return field.name;
    const joined = texts[k] || field.name;
    const unique = uniqueName(joined, taken);
    if (unique !== joined) numbered.push(unique);
    return unique;
  });
  return {
    names,
    sources: sources.map((from, k) => (from.length > 0 ? from : nameOf(k))),
    notices: tellNumbered(numbered),
  };
}

/** What the tiers say over each column, joined; '' where they say nothing. */
function composedNames(
  table: Table,
  tiers: readonly number[],
  params: Params,
): { texts: string[]; sources: CellSource[][] } {
  // The column each tier's text was last seen in, carried across blanks for all but the lowest tier.
  const across: number[] = tiers.map(() => -1);
  const sources: CellSource[][] = [];
  const texts = table.fields.map((field, k) => {
    const from: CellSource[] = [];
    sources.push(from);
    if (field.nameOrigin === 'beside') return '';
    const pieces: string[] = [];
    tiers.forEach((row, tier) => {
      const upper = params.fillAcross && tier < tiers.length - 1;
      const own = cellText(field.column, row)?.trim() ?? '';
      if (own !== '') {
        across[tier] = k;
        // A new upper text ends what the tiers between it and the lowest had carried.
        for (let t = tier + 1; t < tiers.length; t++) across[t] = -1;
      }
      const at = own !== '' ? k : upper ? across[tier]! : -1;
      if (at < 0 || standsAlone(table, tiers, tier, k, own)) return;
      pieces.push(cellText(table.fields[at]!.column, row)!.trim());
      from.push({ role: 'value', rows: { kind: 'at', rows: [row] }, column: at });
    });
    // A cell merged down the tiers says the same in each.
    return pieces.filter((piece, n) => piece !== pieces[n - 1]).join(params.join);
  });
  return { texts, sources };
}

/** Nothing stands below in this column, and the tier itself is only carried over: no separate name comes of it. */
function standsAlone(table: Table, tiers: readonly number[], tier: number, column: number, own: string): boolean {
  if (own !== '' || tier === tiers.length - 1) return false;
  return tiers.slice(tier + 1).every((row) => (cellText(table.fields[column]!.column, row)?.trim() ?? '') === '');
}

/** The rule that finds a row again next month: the first text in it. */
function ruleOfRow(table: Table, row: number): PlainRule | null {
  for (const field of table.fields) {
    if (field.nameOrigin === 'beside') continue;
    const text = cellText(field.column, row);
    if (text !== null && text.trim() !== '') return { test: 'equals', column: field.name, text, exact: true };
  }
  return null;
}
