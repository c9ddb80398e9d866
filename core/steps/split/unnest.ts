import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank, columnBlank, shown } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { textView } from '../../values/cell-text.ts';
import { counted, few } from '../../values/counted.ts';
import { isObject, type Json } from '../../values/json.ts';
import { mapColumns } from '../cells/map-columns.ts';
import { idleNotice, lookAt } from '../result.ts';
import { piecesToColumns } from '../text-pieces.ts';
import { itemsToRows } from './list-rows.ts';

const Params = z.object({
  column: columnName(),
  lists: z
    .enum(['rows', 'joined'])
    .default('rows')
    .describe('A list becomes one row for each item, or its items are joined'),
  with: z.string().default('; ').describe('Stands between joined items'),
  prefix: z.boolean().default(true).describe("Fields of objects are named with the column's name before them"),
});
type Params = z.infer<typeof Params>;

export const unnestWords: StepDescriptor<Params> = {
  kind: 'unnest',
  drops: true,
  title: 'Unnest',
  summary: 'JSON in cells: a list becomes rows, an object becomes columns',
  searchTerms: ['json', 'flatten', 'expand', 'nested', 'list of objects', 'array'],
  params: Params,
  headline: ({ column }) => `Expand ${namesPhrase([column])}`,
  sentence: (params) => [
    'Unnest ',
    columnBlank('column', params.column, 'Column with JSON'),
    ': lists ',
    choiceBlank('lists', params.lists, 'Lists', [
      ['rows', 'to one row each'],
      ['joined', 'joined'],
    ]),
    ...(params.lists === 'joined'
      ? [
          ' with ',
          blank('with', shown(params.with), {
            as: 'text' as const,
            label: 'Between the items',
            optional: true,
            blank: '',
          }),
        ]
      : []),
    ', objects to columns ',
    choiceBlank('prefix', params.prefix, 'Names of the columns', [
      [true, 'named after the column'],
      [false, 'by their fields alone'],
    ]),
  ],
};

export const unnest = /* @__PURE__ */ stepKind<Params>(unnestWords, {
  start: (table, columns) => Params.parse({ column: columns[0] ?? table.fields[0]?.name ?? '' }),
  run(input, params) {
    const k = needColumn(input, params.column);
    const { codes, texts } = textView(input.fields[k]!.column);
    const parsed = texts.map(parseJson);
    const used = new Set(codes);
    const broken: number[] = [];
    codes.forEach((code, r) => {
      if (code >= 0 && parsed[code] === undefined) broken.push(r);
    });
    const examples = texts.filter((_, code) => parsed[code] === undefined && used.has(code));
    const notices: Notice[] = lookAt(
      broken,
      'before',
      `${counted(broken.length, 'cell')} of ${params.column} is no JSON and stays as it reads: ${few(examples)}`,
      params.column,
    );
    const values = parsed.map((value, code): Json => (value === undefined ? texts[code]! : value));
    const lists = values.some((value, code) => Array.isArray(value) && used.has(code));
    if (lists && params.lists === 'joined') {
      const of = new Map(texts.map((text, code) => [text, values[code]!]));
      const result = mapColumns(input, [k], (text) => {
        const value = of.get(text)!;
        return Array.isArray(value) ? value.map((item) => plain(item) ?? '').join(params.with) || null : text;
      });
      return { ...result, notices: [...result.notices, ...notices] };
    }
    if (lists) {
      const items = values.map((value) => (Array.isArray(value) ? value.map(plain) : [plain(value)]));
      const none: (string | null)[] = [];
      return itemsToRows(
        input,
        new Map([[k, (r: number) => (codes[r]! < 0 ? none : items[codes[r]!]!)]]),
        null,
        notices,
      );
    }
    const keys = new Set<string>();
    values.forEach((value, code) => {
      if (isObject(value) && used.has(code)) for (const key of Object.keys(value)) keys.add(key);
    });
    if (keys.size === 0) {
      return {
        ...mapColumns(input, [], (text) => text),
        notices: [...notices, idleNotice(`no cell of ${params.column} holds a list or an object`)],
      };
    }
    // Cells that are no objects keep their text in the column itself.
    const others = values.some((value, code) => !isObject(value) && used.has(code));
    const names = [...keys].map((key) => (params.prefix ? `${params.column}.${key}` : key));
    const of = new Map(texts.map((text, code) => [text, values[code]!]));
    const cut = (text: string) => {
      const value = of.get(text)!;
      return isObject(value) ? [...keys].map((key) => (key in value ? plain(value[key]!) : null)) : [];
    };
    return piecesToColumns(input, k, names, cut, others, notices);
  },
});

function parseJson(text: string): Json | undefined {
  try {
    return JSON.parse(text) as Json;
  } catch {
    return undefined;
  }
}

/** A value as the text of a cell: lists and objects inside stay JSON, to be unnested in their turn. */
function plain(value: Json): string | null {
  if (value === null) return null;
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}
