import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText, compilePattern } from '../../kinds/column-set.ts';
import { columnsPhrase, namesPhrase } from '../../kinds/headline.ts';
import { blank, choiceBlank, option, type Phrase, shown } from '../../kinds/sentence.ts';
import { type Notice, type Pile, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { Dictionary } from '../../table/builder.ts';
import { blankMask, type Column, type TextColumn } from '../../table/column.ts';
import { blankColumn, interleaveColumns, invertMask, maskedRows, takeRows } from '../../table/gather.ts';
import {
  type CellSource,
  type ColumnMap,
  type ColumnOrigin,
  fromColumn,
  NAME,
  type RowMap,
  takenRows,
} from '../../table/origin.ts';
import { withCodes } from '../../table/spanned-column.ts';
import { type Field, type Table, uniqueName } from '../../table/table.ts';
import { counted, few } from '../../values/counted.ts';
import { compileTemplate, type Template } from '../../values/template.ts';

const Part = z.discriminatedUnion('as', [
  z.object({ as: z.literal('column'), name: z.string().min(1).describe('Column that takes this part of the name') }),
  z.object({ as: z.literal('each').describe('Each different text of this part becomes a separate column') }),
]);

const Params = z.object({
  columns: ColumnSet.describe('Columns that are unpivoted; the others stay'),
  split: z.string().nullable().default(null).describe('Names are split at this text; null: not split'),
  template: z
    .string()
    .nullable()
    .default(null)
    .describe("Names are taken apart by this template instead, a piece in braces for each part: '{Month} ({Kind})'"),
  pattern: z
    .string()
    .nullable()
    .default(null)
    .describe(
      'Names are taken apart by this regular expression (ECMAScript), a group for each part, by name if it has one',
    ),
  parts: z
    .array(Part)
    .min(1)
    .refine(
      (parts) => parts.filter((part) => part.as === 'each').length <= 1,
      'only one part can become one column each',
    )
    .default([{ as: 'column', name: 'Name' }]),
  value: z.string().min(1).default('Value').describe('Name of the value column where no part becomes one column each'),
  blanks: z.enum(['keep', 'drop']).default('keep').describe('Rows in which every value is blank'),
});
type Params = z.infer<typeof Params>;

export const unpivotWords: StepDescriptor<Params> = {
  kind: 'unpivot',
  rowByRow: true,
  drops: true,
  title: 'Unpivot',
  summary: 'Columns become rows: the names go into one column or several, the values beside them',
  searchTerms: ['wide to long', 'columns to rows', 'stack', 'months across', 'melt down', 'narrow', 'crosstab to list'],
  params: Params,
  headline: ({ columns, parts }) => {
    const into = parts.flatMap((part) => (part.as === 'column' ? [part.name] : []));
    return `Unpivot ${columnsPhrase(columns)}${into.length === 0 ? '' : ` to ${namesPhrase(into)}`}`;
  },
  sentence: (params) => [
    'Unpivot ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to unpivot' }),
    ': names',
    option(
      params.split === null,
      ' ',
      blank('split', params.split === null ? 'not split' : `split at '${shown(params.split).replaceAll("'", '')}'`, {
        as: 'text',
        label: 'Split the names at',
        optional: true,
        hint: 'Leave blank to keep names whole',
      }),
    ),
    ...(params.split === null
      ? [
          option(
            params.template === null || params.template === '',
            ', by ',
            blank('template', params.template ?? 'no template', {
              as: 'text' as const,
              label: 'Template of the names',
              optional: true,
              hint: 'A piece in braces for each part: {Month} ({Kind})',
            }),
          ),
          option(
            params.pattern === null || params.pattern === '',
            ', by the pattern ',
            blank('pattern', params.pattern ?? 'none', {
              as: 'text' as const,
              label: 'Pattern of the names',
              optional: true,
              hint: 'A group for each part: (?<Month>\\w+) (?<Kind>.+)',
            }),
          ),
        ]
      : []),
    ' into ',
    blank('parts', partsText(params), { as: 'parts', label: 'What the parts of the names become' }),
    ...valuePhrases(params),
    option(
      params.blanks === 'keep',
      ', blank values ',
      choiceBlank('blanks', params.blanks, 'Rows in which every value is blank', [
        ['keep', 'kept'],
        ['drop', 'dropped'],
      ]),
    ),
  ],
};

export const unpivot = /* @__PURE__ */ stepKind<Params>(unpivotWords, {
  start: (table, columns) => {
    const beside = table.fields.filter((field) => field.nameOrigin === 'beside').map((field) => field.name);
    const first = table.fields.find((field) => field.nameOrigin !== 'beside')?.name;
    const stay =
      columns.length > 0
        ? table.fields.map((f) => f.name).filter((name) => !columns.includes(name))
        : [...beside, ...(first === undefined ? [] : [first])];
    const going = table.fields.map((field) => field.name).filter((name) => !stay.includes(name));
    const tiered = going.length > 0 && going.every((name) => name.includes(' / '));
    return Params.parse({
      columns: { by: 'all-but', names: stay },
      split: tiered ? ' / ' : null,
      parts: tiered ? [{ as: 'column', name: 'Name' }, { as: 'each' }] : [{ as: 'column', name: 'Name' }],
    });
  },
  run(input, params, context) {
    const going = chosenColumns(params.columns, input);
    if (going.length === 0) throw new StepFailure(`No column is left to unpivot: ${columnSetText(params.columns)}.`);
    const plan = planNames(input, going, params);
    const goes = new Set(going);
    const staying = input.fields.map((_, k) => k).filter((k) => !goes.has(k));
    const times = plan.groups.length;
    const long: RowMap = times === 1 ? { kind: 'same' } : { kind: 'repeat', times };

    const taken = new Set<string>();
    const fields: Field[] = [];
    const origin: ColumnOrigin[] = [];
    const push = (field: Field, from: ColumnOrigin) => {
      fields.push({ ...field, name: uniqueName(field.name, taken) });
      origin.push(from);
    };
    for (const k of staying) {
      const field = input.fields[k]!;
      push({ ...field, column: repeatCells(field.column, times) }, fromColumn(k, long));
    }
    const nameSources = nameCells(plan);
    plan.names.forEach((name, part) => {
      const texts = plan.groups.map((group) => group.texts[part]!);
      push({ name, nameOrigin: 'named', column: cycleTexts(texts, input.rows) }, { cells: nameSources, name: [] });
    });
    context.progress(0.3);
    plan.values.forEach((value, v) => {
      const columns = plan.groups.map((group) => group.columns[v]!);
      const cells = columns.map((k) => (k < 0 ? blankColumn(input.rows) : input.fields[k]!.column));
      const named = columns.filter((k) => k >= 0);
      push(
        { name: value, nameOrigin: 'named', column: interleaveColumns(cells, input.rows) },
        {
          cells: [{ role: 'value', rows: long, column: cycle(columns) }],
          name: plan.each
            ? named.map((column): CellSource => ({ role: 'name', rows: { kind: 'at', rows: [NAME] }, column }))
            : [],
        },
      );
      context.progress(0.3 + (0.6 * (v + 1)) / plan.values.length);
    });
    const notices = plan.notices;
    const result = { table: { rows: input.rows * times, fields }, origin, aside: [], notices };
    return params.blanks === 'keep' ? result : dropBlankRows(result, plan, staying.length + plan.names.length);
  },
});

function partsText(params: Params): string {
  return params.parts.map((part) => (part.as === 'each' ? 'one column each' : part.name)).join(' and ');
}

function valuePhrases(params: Params): Phrase[] {
  if (params.parts.some((part) => part.as === 'each')) return [];
  return [', values into ', blank('value', params.value, { as: 'text', label: 'Name of the value column' })];
}

export interface Plan {
  /** Names of the columns that take parts of names. */
  names: string[];
  /** Names of the value columns. */
  values: string[];
  each: boolean;
  /** One for each output row of an input row: its name texts, and the input column of each value column or -1. */
  groups: { texts: (string | null)[]; columns: number[] }[];
  notices: Notice[];
}

export function planNames(input: Table, going: readonly number[], params: Params): Plan {
  const eachAt = params.parts.findIndex((part) => part.as === 'each');
  const names = params.parts.flatMap((part) => (part.as === 'column' ? [part.name] : []));
  const values = new Dictionary();
  const groups = new Map<string, { texts: (string | null)[]; columns: number[] }>();
  const template = takingApart(params);
  const longer: string[] = [];
  const shorter: string[] = [];
  const doubled: string[] = [];
  const unfit: string[] = [];
  for (const k of going) {
    const { name } = input.fields[k]!;
    const taken = template?.pieces(name);
    if (template !== undefined && taken === undefined) unfit.push(name);
    const pieces: (string | null)[] =
      template === undefined ? splitName(name, params.split, params.parts.length) : (taken ?? [name]);
    if (template === undefined && params.split !== null && name.split(params.split).length > params.parts.length)
      longer.push(name);
    if (pieces.length < params.parts.length && template === undefined) shorter.push(name);
    while (pieces.length < params.parts.length) pieces.push(null);
    const value = eachAt < 0 ? params.value : (pieces[eachAt] ?? params.value);
    const texts = pieces.filter((_, p) => p !== eachAt);
    const key = JSON.stringify(texts);
    let group = groups.get(key);
    if (group === undefined) {
      group = { texts, columns: [] };
      groups.set(key, group);
    }
    const v = values.code(value);
    // Two columns with one name in all parts both keep their values, in two output rows.
    if (group.columns[v] !== undefined) {
      doubled.push(name);
      group = { texts, columns: [] };
      groups.set(`${key}#${k}`, group);
    }
    group.columns[v] = k;
  }
  const all = [...groups.values()];
  for (const group of all) for (let v = 0; v < values.texts.length; v++) group.columns[v] ??= -1;
  const notices: Notice[] = [];
  const look = (list: string[], text: string) => {
    if (list.length > 0)
      notices.push({ severity: 'warning', text: `${counted(list.length, 'name')} ${text}: ${few(list)}` });
  };
  look(longer, `with more than ${counted(params.parts.length, 'part')}, the rest kept in the last`);
  look(shorter, `with fewer than ${counted(params.parts.length, 'part')}`);
  look(unfit, 'outside of the template, kept whole in the first part');
  if (template !== undefined) notices.push(...template.notices);
  look(doubled, 'have the same parts as another and became separate rows');
  const gaps = all.flatMap((group) => group.columns).filter((k) => k < 0).length;
  if (gaps > 0)
    notices.push({ severity: 'warning', text: `${counted(gaps, 'pairing')} of name parts has no column and is blank` });
  return { names, values: [...values.texts], each: eachAt >= 0, groups: all, notices };
}

/** How names come apart: the names of the pieces, and the pieces of a text or null where it does not fit. */
type TakingApart = Pick<Template, 'names' | 'exec'>;

function takingApart({ template, pattern, parts }: Params) {
  if (template !== null && template !== '') return namedPieces(template, templateOf(template), parts);
  if (pattern === null || pattern === '') return undefined;
  const compiled = compilePattern(pattern);
  const names = compiled.names.map((name, k) => name ?? `group ${k + 1}`);
  const exec = (text: string) =>
    compiled
      .exec(text)
      ?.groups.slice(1)
      .map((piece) => piece ?? '') ?? null;
  return namedPieces(pattern, { names, exec }, parts);
}

/**
 * Pieces of names by a template, in the order of the parts: a part takes the piece with its name, and parts without
 * one take the pieces that are left, which is reported where the names differ.
 */
function namedPieces(text: string, template: TakingApart, parts: Params['parts']) {
  const left = new Set(template.names);
  const own = parts.map((part) => (part.as === 'column' && left.delete(part.name) ? part.name : undefined));
  const spare = [...left];
  const notices: Notice[] = [];
  const from = parts.map((part, p) => {
    const name = own[p] ?? spare.shift();
    if (name === undefined) {
      throw new StepFailure(
        `The template ${text} has ${counted(template.names.length, 'piece')} and the names have ${counted(parts.length, 'part')}: give each part a piece in braces.`,
      );
    }
    if (part.as === 'column' && name !== part.name)
      notices.push({ severity: 'warning', text: `the piece ${name} goes into ${part.name}`, column: part.name });
    return template.names.indexOf(name);
  });
  if (spare.length > 0) notices.push({ severity: 'info', text: `left out of the names: ${few(spare)}` });
  const pieces = (name: string) => {
    const found = template.exec(name);
    return found === null ? undefined : from.map((k) => found[k]!.trim());
  };
  return { pieces, notices };
}

function templateOf(template: string): Template {
  try {
    return compileTemplate(template);
  } catch (error) {
    throw new StepFailure(`The template of the names cannot be used. ${(error as Error).message}.`);
  }
}

/** At most this many pieces; what is left over stays in the last. */
function splitName(name: string, at: string | null, most: number): string[] {
  if (at === null || at === '') return [name];
  const pieces = name.split(at);
  if (pieces.length <= most) return pieces;
  return [...pieces.slice(0, most - 1), pieces.slice(most - 1).join(at)];
}

function cycle(columns: readonly number[]): ColumnMap {
  return columns.length === 1 ? columns[0]! : { kind: 'cycle', columns: Int32Array.from(columns) };
}

/** The names that a cell of a name column came from: those of all its group's columns. */
function nameCells(plan: Plan): CellSource[] {
  return plan.values.map((_, v) => ({
    role: 'name',
    rows: { kind: 'at', rows: [NAME] },
    column: cycle(plan.groups.map((group) => group.columns[v]!)),
  }));
}

/** Each cell times times in a row. */
function repeatCells(column: Column, times: number): Column {
  if (times === 1) return column;
  if (column.type === 'text')
    return withCodes(
      column,
      repeatVector(column.codes, times, (n) => new Int32Array(n)),
    );
  const values = repeatVector(column.values, times, (n) => new Float64Array(n));
  if (column.type === 'received') {
    return { ...column, values, tags: repeatVector(column.tags, times, (n) => new Uint8Array(n)) };
  }
  if (column.unreadable === undefined) return { type: column.type, values };
  const codes = repeatVector(column.unreadable.codes, times, (n) => new Int32Array(n));
  return { type: column.type, values, unreadable: { codes, cells: column.unreadable.cells } };
}

function repeatVector<V extends Int32Array | Float64Array | Uint8Array>(
  from: V,
  times: number,
  make: (n: number) => V,
): V {
  const out = make(from.length * times);
  for (let r = 0, k = 0; r < from.length; r++) {
    const value = from[r]!;
    for (const end = k + times; k < end; k++) out[k] = value;
  }
  return out;
}

/** The texts in turn, over and over for each input row. */
function cycleTexts(texts: readonly (string | null)[], rows: number): TextColumn {
  const dictionary = new Dictionary();
  const turn = Int32Array.from(texts, (text) => (text === null ? -1 : dictionary.code(text)));
  const codes = new Int32Array(texts.length * rows);
  // Doubling copies within the vector are faster than a modulo for each cell.
  if (codes.length > 0) codes.set(turn);
  for (let filled = turn.length; filled < codes.length; ) {
    const next = Math.min(filled, codes.length - filled);
    codes.copyWithin(filled, 0, next);
    filled += next;
  }
  return { type: 'text', codes, dictionary: dictionary.texts, distinct: true };
}

function dropBlankRows(
  result: { table: Table; origin: ColumnOrigin[]; aside: Pile[]; notices: Notice[] },
  plan: Plan,
  firstValue: number,
): typeof result {
  const { table } = result;
  const masks = table.fields.slice(firstValue).map((field) => blankMask(field.column));
  const blanks = new Uint8Array(table.rows);
  for (let r = 0; r < blanks.length; r++) blanks[r] = masks.every((mask) => mask[r] === 1) ? 1 : 0;
  const kept = maskedRows(invertMask(blanks));
  if (kept.length === table.rows) return result;
  const times = plan.groups.length;
  const from = takenRows(kept.map((row) => Math.floor(row / times)));
  const turn = (map: ColumnMap): ColumnMap =>
    typeof map === 'number' ? map : { kind: 'take', columns: kept.map((row) => map.columns[row % times]!) };
  return {
    table: takeRows(table, kept),
    origin: result.origin.map((of) => ({
      name: of.name,
      cells: of.cells.map((source) => ({
        ...source,
        rows: source.rows.kind === 'at' ? source.rows : from,
        column: turn(source.column),
      })),
    })),
    aside: [],
    notices: [
      ...result.notices,
      { severity: 'info', text: `${counted(table.rows - kept.length, 'row')} with blank values dropped` },
    ],
  };
}
