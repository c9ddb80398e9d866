/** Ways to make a column of one or two others: parts and forms of dates, pieces of texts, texts put together. */
import type { Proposal } from '../../findings/finding.ts';
import { dateField } from '../../formula/dates.ts';
import { Cutting, cutText } from '../../steps/split/cutting.ts';
import type { Table } from '../../table/table.ts';
import { textView } from '../../values/cell-text.ts';
import { civilFromDays, MS } from '../../values/civil.ts';
import { monthNames } from '../../values/month-names.ts';
import { plainText } from '../like.ts';
import { plainAt, plainColumn } from './goal.ts';
import { expressionStep, literal, quoted } from './state.ts';

/** A way to a new column: what it reads there, and the steps. */
export interface Way {
  /** Index of the column that it is made of. */
  of: number;
  /** What the new column reads in a row, plain; undefined where it cannot be made. */
  at(row: number): string | undefined;
  /** What it is, in a few words, as a reason and to tell two ways apart. */
  label: string;
  /** The steps that add the column under a free name. */
  steps(into: string): Proposal[];
}

type Civil = readonly [year: number, month: number, day: number];
const two = (n: number) => String(n).padStart(2, '0');
const quarter = (month: number) => Math.ceil(month / 3);
const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** Forms of a day: as text, and as an expression over the column or as a part of Date parts. */
const DATE_FORMS: readonly {
  label: string;
  text(civil: Civil, day: number): string;
  expression?(column: string): string;
  part?: { part: string; name: string };
}[] = [
  { label: 'year', text: ([y]) => String(y), expression: (c) => `extract(year from ${c})` },
  { label: 'month', text: ([, m]) => String(m), expression: (c) => `extract(month from ${c})` },
  {
    label: 'month',
    text: ([y, m]) => `${y}-${two(m)}`,
    expression: (c) => `left(cast(${c} as text), 7)`,
  },
  {
    label: 'month name',
    text: ([, m]) => monthNames('en', false)[m - 1]!,
    part: { part: 'month-name', name: 'month name' },
  },
  {
    label: 'month name',
    text: ([, m]) => monthNames('en', false)[m - 1]!.slice(0, 3),
    expression: (c) => `substring('JanFebMarAprMayJunJulAugSepOctNovDec' from 3 * extract(month from ${c}) - 2 for 3)`,
  },
  {
    label: 'month and year',
    text: ([y, m]) => `${monthNames('en', false)[m - 1]!.slice(0, 3)} ${y}`,
    expression: (c) =>
      `substring('JanFebMarAprMayJunJulAugSepOctNovDec' from 3 * extract(month from ${c}) - 2 for 3) || ' ' || extract(year from ${c})`,
  },
  {
    label: 'month and year',
    text: ([y, m]) => `${two(m)}/${y}`,
    expression: (c) => `lpad(cast(extract(month from ${c}) as text), 2, '0') || '/' || extract(year from ${c})`,
  },
  { label: 'quarter', text: ([, m]) => String(quarter(m)), expression: (c) => `extract(quarter from ${c})` },
  { label: 'quarter', text: ([, m]) => `Q${quarter(m)}`, expression: (c) => `'Q' || extract(quarter from ${c})` },
  ...['-', ' ', ''].map((between) => ({
    label: 'year and quarter',
    text: ([y, m]: Civil) => `${y}${between}Q${quarter(m)}`,
    expression: (c: string) => `extract(year from ${c}) || '${between}Q' || extract(quarter from ${c})`,
  })),
  {
    label: 'quarter and year',
    text: ([y, m]) => `Q${quarter(m)} ${y}`,
    expression: (c) => `'Q' || extract(quarter from ${c}) || ' ' || extract(year from ${c})`,
  },
  {
    label: 'weekday',
    text: (_, day) => WEEKDAYS[dateField(day, 'isodow') - 1]!,
    part: { part: 'weekday-name', name: 'weekday' },
  },
  {
    label: 'ISO week',
    text: (_, day) => String(dateField(day, 'week')),
    expression: (c) => `extract(week from ${c})`,
  },
  { label: 'day', text: ([, , d]) => String(d), expression: (c) => `extract(day from ${c})` },
  ...(['month', 'quarter', 'year'] as const).map((period) => ({
    label: `first day of the ${period}`,
    text: ([y, m]: Civil) => `${y}-${two(period === 'month' ? m : period === 'quarter' ? 3 * quarter(m) - 2 : 1)}-01`,
    expression: (c: string) => `date_trunc('${period}', ${c})`,
  })),
  ...(
    [
      ['.', 'dmy'],
      ['/', 'dmy'],
      ['/', 'mdy'],
      ['-', 'dmy'],
    ] as const
  ).map(([between, order]) => ({
    label: 'date in another form',
    text: ([y, m, d]: Civil) => (order === 'dmy' ? [two(d), two(m), y] : [two(m), two(d), y]).join(between),
    expression: (c: string) => {
      const part = (name: string) => `lpad(cast(extract(${name} from ${c}) as text), 2, '0')`;
      const parts = order === 'dmy' ? [part('day'), part('month')] : [part('month'), part('day')];
      return `${parts.join(` || '${between}' || `)} || '${between}' || extract(year from ${c})`;
    },
  })),
];

/** Parts and forms of the dates of a column. */
function dateWays(table: Table, k: number): Way[] {
  const { name, column } = table.fields[k]!;
  if (column.type !== 'date' && column.type !== 'datetime') return [];
  const dayAt = (row: number) =>
    column.type === 'date' ? column.values[row]! : Math.floor(column.values[row]! / MS.day);
  return DATE_FORMS.map(
    ({ label, text, expression, part }): Way => ({
      of: k,
      label: `${label} of ${name}`,
      at(row) {
        const day = dayAt(row);
        return Number.isNaN(day) ? '' : text(civilFromDays(day) as Civil, day);
      },
      steps: (into) => {
        const why = `the ${label} of ${name}, as in the finished table`;
        if (part === undefined) return [expressionStep(into, expression!(quoted(name)), why)];
        return [
          { kind: 'date-parts', params: { column: name, parts: [part.part] }, why },
          { kind: 'rename', params: { names: [{ from: `${name} ${part.name}`, to: into }] }, why },
        ];
      },
    }),
  );
}

const DIVIDERS = [' - ', ' – ', ' / ', ', ', ': ', ' (', '-', '/', ',', ':', '|', ';', '_', '.', ' '];
const MAX_PIECES = 5;
const MAX_TEXTS = 20_000;
/** Texts by which a way to cut them is judged. */
const MAX_SAMPLE = 200;
const IN_BRACKETS = /^(.*?)\s*\(([^()]*)\)$/;

/** Pieces of the texts of a column. */
function pieceWays(table: Table, k: number): Way[] {
  const { name, column } = table.fields[k]!;
  if (column.type !== 'text' && column.type !== 'received') return [];
  const { codes, texts } = textView(column);
  if (texts.length === 0 || texts.length > MAX_TEXTS) return [];
  // Many ways are looked at in a few rows and no further: what a text becomes is worked out when it is asked for.
  const way = (label: string, make: (text: string) => string | null | undefined, steps: Way['steps']): Way => {
    const made = new Map<number, string>();
    return {
      of: k,
      label,
      at(row) {
        const code = codes[row]!;
        if (code < 0) return '';
        let text = made.get(code);
        if (text === undefined) {
          text = plainText(make(texts[code]!) ?? null);
          made.set(code, text);
        }
        return text;
      },
      steps,
    };
  };
  const sample = texts.slice(0, MAX_SAMPLE);
  const ways: Way[] = [];
  const cut = (given: Partial<Cutting>, label: string) => {
    const cutting = Cutting.parse(given);
    const pieces = sample.map((text) => cutText(text, cutting));
    if (pieces.filter((own) => own.length > 1).length < sample.length * 0.5) return;
    const most = Math.min(MAX_PIECES, Math.max(...pieces.map((own) => own.length)));
    for (let p = 0; p < most; p++)
      ways.push(
        way(
          `piece ${p + 1} of ${name}`,
          (text) => cutText(text, cutting)[p],
          (into) => [
            {
              kind: 'split-to-columns',
              params: {
                column: name,
                cut: cutting,
                into: Array.from({ length: most }, (_, n) => (n === p ? into : '')),
                keep: true,
              },
              why: `${label}, as in the finished table`,
            },
          ],
        ),
      );
  };
  for (const divider of DIVIDERS) {
    const having = sample.filter((text) => text.includes(divider)).length;
    if (having < sample.length * 0.5) continue;
    for (const which of ['every', 'first', 'last'] as const)
      cut(
        { delimiters: [divider], which },
        `${name} is cut at ${divider.trim() === '' ? 'the blank' : `'${divider.trim()}'`}`,
      );
  }
  cut({ by: 'class' }, `${name} is cut where letters and digits meet`);
  if (sample.filter((text) => IN_BRACKETS.test(text)).length >= sample.length * 0.5)
    for (const p of [1, 2])
      ways.push(
        way(
          p === 1 ? `${name} before the bracket` : `${name} in the bracket`,
          (text) => IN_BRACKETS.exec(text)?.[p] ?? (p === 1 ? text : null),
          (into) => [
            {
              kind: 'extract',
              params: {
                column: name,
                by: 'pattern',
                pattern: p === 1 ? '^(?<Piece>[^(]*)' : '\\((?<Piece>[^()]*)\\)$',
              },
              why: `taken from ${name}, as in the finished table`,
            },
            { kind: 'rename', params: { names: [{ from: 'Piece', to: into }] }, why: 'named as in the finished table' },
          ],
        ),
      );
  const longest = Math.max(...sample.map((text) => text.length));
  for (let n = 1; n < Math.min(longest, 12); n++)
    for (const end of ['left', 'right'] as const)
      ways.push(
        way(
          `${end === 'left' ? 'first' : 'last'} ${n} of ${name}`,
          (text) => (end === 'left' ? text.slice(0, n) : text.slice(-n)),
          (into) => [
            expressionStep(
              into,
              `${end}(${quoted(name)}, ${n})`,
              `the ${end === 'left' ? 'first' : 'last'} ${n} characters of ${name}, as in the finished table`,
            ),
          ],
        ),
      );
  for (const [how, make] of [
    ['upper', (text: string) => text.toUpperCase()],
    ['lower', (text: string) => text.toLowerCase()],
  ] as const)
    ways.push(
      way(`${name} in ${how} case`, make, (into) => [
        expressionStep(into, `${how}(${quoted(name)})`, `${name} in ${how} case, as in the finished table`),
      ]),
    );
  ways.push(
    way(`${name} with a capital at each word`, inTitleCase, (into) => [
      expressionStep(into, quoted(name), `${name} once more`),
      {
        kind: 'clean-text',
        params: { columns: { by: 'names', names: [into] }, letters: 'title' },
        why: `${name} with a capital at each word, as in the finished table`,
      },
    ]),
  );
  return ways;
}

const inTitleCase = (text: string) => text.toLowerCase().replace(/(?<!\p{L})\p{L}/gu, (letter) => letter.toUpperCase());

const known = new WeakMap<Table, readonly Way[]>();

/** Ways that look at one column of the table, whatever the rows are. */
export function columnWays(table: Table): readonly Way[] {
  let ways = known.get(table);
  if (ways === undefined) {
    ways = table.fields.flatMap((_, k) => [...dateWays(table, k), ...pieceWays(table, k)]);
    known.set(table, ways);
  }
  return ways;
}

/** Whether a way makes all of some texts, in whatever rows. */
export function makesAll(table: Table, way: Way, texts: ReadonlySet<string>): boolean {
  const made = new Set<string>();
  for (let r = 0; r < table.rows; r++) made.add(way.at(r) ?? '');
  return [...texts].every((text) => made.has(text));
}

/** A wanted text with the text of a column in it: what stands around it is the same in each row. */
export function frameWays(table: Table, row: number, wanted: string): Way[] {
  if (wanted === '') return [];
  const ways: Way[] = [];
  const readings = table.fields.map(({ column }) => plainColumn(column));
  const text = (k: number, r: number) => plainAt(readings[k]!, r);
  const here = table.fields.map((_, k) => text(k, row));
  here.forEach((own, a) => {
    if (own === '' || own === wanted) return;
    const at = wanted.indexOf(own);
    if (at < 0) return;
    const [front, rest] = [wanted.slice(0, at), wanted.slice(at + own.length)];
    const nameA = table.fields[a]!.name;
    const add = (parts: readonly { k?: number; text?: string }[], label: string) =>
      ways.push({
        of: a,
        label,
        at: (r) => parts.map((part) => (part.k === undefined ? part.text : text(part.k, r))).join(''),
        steps: (into) => [
          expressionStep(
            into,
            parts
              .flatMap((part) =>
                part.k !== undefined
                  ? [`cast(${quoted(table.fields[part.k]!.name)} as text)`]
                  : part.text === ''
                    ? []
                    : [literal(part.text!)],
              )
              .join(' || '),
            `${label}, as in the finished table`,
          ),
        ],
      });
    if (own.length >= 2) add([{ text: front }, { k: a }, { text: rest }], `${nameA} with text around it`);
    here.forEach((second, b) => {
      if (b === a || second === '') return;
      const next = rest.indexOf(second);
      if (next < 0 || next > 4) return;
      const [between, end] = [rest.slice(0, next), rest.slice(next + second.length)];
      if (end.length > 3 || front.length > 3) return;
      add(
        [{ text: front }, { k: a }, { text: between }, { k: b }, { text: end }],
        `${nameA} and ${table.fields[b]!.name} joined`,
      );
    });
  });
  return ways;
}
