import { z } from 'zod';
import { saysTotal } from '../../glance/hint-words.ts';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank } from '../../kinds/sentence.ts';
import { type Notice, type Pile, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { runStarts } from '../../rules/placed.ts';
import { withinText } from '../../rules/rules.ts';
import { textColumn } from '../../table/builder.ts';
import { invertMask, maskedRows, takeRows } from '../../table/gather.ts';
import { sameColumns, takenRows } from '../../table/origin.ts';
import { type Table, uniqueName } from '../../table/table.ts';
import { textView } from '../../values/cell-text.ts';
import { counted } from '../../values/counted.ts';
import { escapeRegExp } from '../../values/text.ts';
import { idleNotice } from '../result.ts';

const Params = z.object({
  names: z.array(z.string().min(1)).min(1).describe("What stands before the colon, as 'Depot' in 'Depot: Hask'"),
  within: columnName().optional().describe('A line holds until this column changes'),
});
type Params = z.infer<typeof Params>;

export const linesToColumnsWords: StepDescriptor<Params> = {
  kind: 'lines-to-columns',
  drops: true,
  title: 'Lines to columns',
  summary: "Lines such as 'Depot: Hask' become columns on the rows under them, and the lines are set aside",
  searchTerms: [
    'name: value',
    'header lines',
    'form fields',
    'metadata',
    'key value lines',
    'caption',
    'parameters above',
  ],
  params: Params,
  headline: ({ names }) => `Make ${namesPhrase(names)} from lines`,
  sentence: (params) => [
    'Make columns of the lines ',
    blank('names', params.names.join(', '), { as: 'lines', label: 'Names before the colon' }),
    blank('within', withinText(params.within) || ' through all rows', {
      as: 'column',
      label: 'A line holds until this changes',
      optional: true,
    }),
  ],
};

/** Where a line stands: the cell of its value, and the value. */
interface Line {
  row: number;
  column: number;
  value: string;
}

export const linesToColumns = /* @__PURE__ */ stepKind<Params>(linesToColumnsWords, {
  start: (table) => {
    const names = lineNames(table);
    const within = table.fields.find((field) => field.nameOrigin === 'beside')?.name;
    return { names: names.length > 0 ? names : ['Name'], ...(within === undefined ? {} : { within }) };
  },
  run(input, params) {
    const runs = runStarts(input, params.within);
    const lines = params.names.map((name) => linesOf(input, name, params.names));
    const away = new Uint8Array(input.rows);
    for (const own of lines) for (const { row } of own) away[row] = 1;
    const kept = maskedRows(invertMask(away));
    const body = takeRows(input, kept);
    const fields = [...body.fields];
    const origin = [...sameColumns(input.fields.length, takenRows(kept))];
    const taken = new Set(body.fields.map((field) => field.name));
    const at = Math.max(
      0,
      input.fields.findIndex((field) => field.nameOrigin !== 'beside'),
    );
    const notices: Notice[] = [];
    params.names.forEach((wanted, n) => {
      const name = uniqueName(wanted, taken);
      const held = holding(lines[n]!, runs, input.rows);
      const own = Array.from(kept, (row) => held[row]);
      fields.splice(at + n, 0, {
        name,
        nameOrigin: 'beside',
        column: textColumn(own.map((line) => line?.value ?? null)),
      });
      const rows = Int32Array.from(own, (line) => line?.row ?? -1);
      const columns = Int32Array.from(own, (line) => line?.column ?? -1);
      origin.splice(at + n, 0, {
        cells: [{ role: 'label', rows: takenRows(rows), column: { kind: 'take', columns } }],
        name: [],
      });
      if (lines[n]!.length === 0) notices.push(idleNotice(`no line begins with ${wanted}`));
      const without = [...rows.keys()].filter((r) => rows[r]! < 0);
      if (lines[n]!.length > 0 && without.length > 0)
        notices.push({
          severity: 'info',
          text: `${counted(without.length, 'row')} above the first line of ${wanted}`,
          rows: { of: 'after', rows: Int32Array.from(without) },
        });
    });
    const gone = maskedRows(away);
    const aside: Pile[] = gone.length === 0 ? [] : [{ name: 'labels', mark: 'label', rows: gone }];
    if (gone.length > 0)
      notices.unshift({ severity: 'info', text: `${counted(gone.length, 'line')} carried onto the rows below` });
    return { table: { rows: body.rows, fields }, origin, aside, notices };
  },
});

/** For each row the line that holds there. */
function holding(lines: readonly Line[], runs: readonly number[], rows: number): (Line | undefined)[] {
  const at = new Map(lines.map((line) => [line.row, line]));
  const held = new Array<Line | undefined>(rows);
  for (let k = 0; k + 1 < runs.length; k++) {
    let current: Line | undefined;
    for (let r = runs[k]!; r < runs[k + 1]!; r++) {
      current = at.get(r) ?? current;
      held[r] = current;
    }
  }
  return held;
}

function linesOf(table: Table, name: string, names: readonly string[]): Line[] {
  const inCell = new RegExp(`^\\s*${escapeRegExp(name.trim())}\\s*[:：=]\\s*(.*)$`, 'iu');
  const alone = new RegExp(`^\\s*${escapeRegExp(name.trim())}\\s*[:：=]?\\s*$`, 'iu');
  const columns = table.fields.flatMap((field, k) =>
    field.nameOrigin === 'beside' ? [] : [{ k, ...textView(field.column) }],
  );
  const found = new Map<number, Line>();
  const filledIn = (row: number) =>
    columns.filter(({ codes, texts }) => codes[row]! >= 0 && texts[codes[row]!]!.trim() !== '').length;
  const isName = new Set(names.map((one) => one.trim().toLowerCase()));
  /** Names that are asked for, each with a value behind it. */
  const arePairs = (row: number) => {
    const cells = columns.flatMap(({ codes, texts }) => {
      const text = codes[row]! < 0 ? '' : texts[codes[row]!]!.trim();
      return text === '' ? [] : [text.replace(/\s*[:：=]$/, '').toLowerCase()];
    });
    return cells.length % 2 === 0 && cells.every((cell, k) => k % 2 === 1 || isName.has(cell));
  };
  columns.forEach(({ k, codes, texts }, n) => {
    const matched = texts.map((text) => inCell.exec(text)?.[1]?.trim());
    const named = texts.map((text) => alone.test(text));
    for (let r = 0; r < codes.length; r++) {
      const code = codes[r]!;
      if (code < 0 || found.has(r)) continue;
      const own = matched[code];
      if (own !== undefined && own !== '') {
        found.set(r, { row: r, column: k, value: own });
        continue;
      }
      if (!named[code]) continue;
      // Without a colon only a line of pairs is one: a header may hold the same name.
      if (!/[:：=]\s*$/.test(texts[code]!) && filledIn(r) !== 2 && !arePairs(r)) continue;
      // The value stands in the next filled cell of the row.
      const behind = columns
        .slice(n + 1)
        .filter((other) => other.codes[r]! >= 0 && other.texts[other.codes[r]!]!.trim() !== '');
      const value = behind[0];
      if (value !== undefined) found.set(r, { row: r, column: value.k, value: value.texts[value.codes[r]!]!.trim() });
    }
  });
  return [...found.values()].sort((a, b) => a.row - b.row);
}

const LINE = /^\s*(\p{L}[\p{L}\p{N} ./()'’-]{0,38}?)\s*[:：]\s*(\S.*)?$/u;

/** Share of the rows that lines of two cells may be, where no colon tells them from rows of a table. */
const MAX_PAIRED = 0.4;
const MAX_BARE_NAME = 30;
/** Of names and values on one line. */
const MAX_PAIRS = 4;
const PAGE = /^\p{L}+\.?\s*\d+(?:\s*(?:\/|of|von|de)\s*\d+)?$/iu;

/**
 * Names that lines of a table have before a colon, with their values after it or in the next cell; several of them may
 * share a line. Without a colon: names in front of values, alone or in pairs on a line, that come again with another value.
 */
export function lineNames(table: Table, most = 200): string[] {
  const columns = table.fields.filter((field) => field.nameOrigin !== 'beside').map((field) => textView(field.column));
  const found = new Map<string, string>();
  const bare = new Map<string, { name: string; rows: number; values: Set<string> }>();
  const rows = Math.min(table.rows, most);
  let [paired, wide] = [0, 0];
  for (let r = 0; r < rows; r++) {
    const filled = columns.flatMap(({ codes, texts }) => {
      const code = codes[r]!;
      return code < 0 || texts[code]!.trim() === '' ? [] : [texts[code]!.trim()];
    });
    if (filled.length > 2) wide++;
    for (const name of namesInLine(filled)) found.set(name.toLowerCase(), name);
    const pairs = barePairs(filled);
    if (pairs.length === 0 || saysTotal(pairs[0]![0])) continue;
    paired++;
    for (const [name, value] of pairs) {
      const before = bare.get(name.toLowerCase()) ?? { name, rows: 0, values: new Set<string>() };
      before.rows++;
      bare.set(name.toLowerCase(), { ...before, values: before.values.add(value) });
    }
  }
  const again = [...bare].filter(([, { rows: times, values }]) => times > 1 && values.size > 1);
  // Of a table of two columns each row is a pair; one name alone may be the head of a page.
  if (wide > paired && paired <= rows * MAX_PAIRED && again.length > 1)
    for (const [key, { name }] of again) found.set(key, found.get(key) ?? name);
  return [...found.values()];
}

/** Names and values one behind the other in the cells of a line, without a colon; none where it is no such line. */
function barePairs(filled: readonly string[]): (readonly [name: string, value: string])[] {
  if (filled.length === 0 || filled.length % 2 !== 0 || filled.length > 2 * MAX_PAIRS) return [];
  const pairs = Array.from({ length: filled.length / 2 }, (_, k) => [filled[2 * k]!, filled[2 * k + 1]!] as const);
  const isPair = ([name, value]: readonly [string, string]) =>
    !PAGE.test(value) && /^\p{L}[^:\d]*$/u.test(name) && name.length <= MAX_BARE_NAME;
  const isOne = pairs.length === 1 || new Set(pairs.map(([name]) => name)).size === pairs.length;
  // A header holds names alone.
  const hasValues = pairs.length === 1 || pairs.some(([, value]) => /\d/.test(value));
  return isOne && hasValues && pairs.every(isPair) ? pairs : [];
}

/** The names of a line that is made of names and values alone. */
function namesInLine(filled: readonly string[]): string[] {
  const matches = filled.map((text) => LINE.exec(text));
  const hasValue = (match: RegExpExecArray | null) => match?.[2] !== undefined && match[2] !== '';
  if (filled.length > 0 && matches.every(hasValue)) return matches.map((match) => match![1]!);
  const isAlternating =
    filled.length > 0 &&
    filled.length % 2 === 0 &&
    matches.every((match, k) => (k % 2 === 0 ? match !== null && !hasValue(match) : match === null || hasValue(match)));
  return isAlternating ? matches.flatMap((match, k) => (k % 2 === 0 ? [match![1]!] : [])) : [];
}
