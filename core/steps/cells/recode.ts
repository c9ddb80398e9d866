import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank, columnBlank, option } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { Dictionary } from '../../table/builder.ts';
import { type Column, type ReceivedColumn, Tag } from '../../table/column.ts';
import { fromColumn } from '../../table/origin.ts';
import { sampleTexts, textView } from '../../values/cell-text.ts';
import { counted, few } from '../../values/counted.ts';
import { changedInPlace, lookAt, withColumns } from '../result.ts';

const Params = z.object({
  column: columnName(),
  crosswalk: z.array(z.object({ from: z.string(), to: z.string() })),
  unmatched: z.enum(['keep', 'blank', 'list']).default('keep').describe('list: unreadable, so that they stand out'),
  exact: z.boolean().default(true).describe('Case matters'),
  into: z.string().nullable().default(null).describe('New column; null: the column itself'),
});
type Params = z.infer<typeof Params>;

/** Cells that a guess looks at. */
const SAMPLE = 5000;

export const recodeWords: StepDescriptor<Params> = {
  kind: 'recode',
  rowByRow: true,
  drops: true,
  title: 'Recode',
  summary: 'Replaces codes by their meaning, using a crosswalk of two columns',
  searchTerms: ['lookup codes', 'map values', 'crosswalk', 'translate', 'dictionary', 'labels for codes'],
  params: Params,
  headline: ({ column }) => `Recode ${namesPhrase([column])}`,
  sentence: (params) => [
    'Recode ',
    columnBlank('column', params.column, 'Column to recode'),
    ' by ',
    blank('crosswalk', crosswalkText(params.crosswalk), {
      as: 'items',
      label: 'Crosswalk',
      fresh: { from: '', to: '' },
      fields: [
        { key: 'from', edit: { as: 'text', label: 'Code', blank: '' } },
        { key: 'to', edit: { as: 'text', label: 'Meaning', blank: '' } },
      ],
    }),
    ', others ',
    choiceBlank('unmatched', params.unmatched, 'Codes that are not in the crosswalk', [
      ['keep', 'kept'],
      ['blank', 'made blank'],
      ['list', 'made unreadable'],
    ]),
    option(
      params.exact,
      ', case ',
      choiceBlank('exact', params.exact, 'Case of the codes', [
        [true, 'matters'],
        [false, 'does not matter'],
      ]),
    ),
    ', into ',
    blank('into', params.into ?? 'the same column', { as: 'text', label: 'New column', optional: true }),
  ],
};

export const recode = /* @__PURE__ */ stepKind<Params>(recodeWords, {
  start: (table, columns) => {
    const column = columns[0] ?? table.fields[0]?.name ?? '';
    const field = table.fields.find((one) => one.name === column);
    const texts = field === undefined ? [] : [...new Set(sampleTexts(field.column, SAMPLE))].slice(0, 50);
    return {
      column,
      crosswalk: texts.map((text) => ({ from: text, to: text })),
      unmatched: 'keep',
      exact: true,
      into: null,
    };
  },
  run(input, params) {
    const k = needColumn(input, params.column);
    const { column, notices } = recoded(input.fields[k]!.column, params);
    if (params.into === null || params.into === '') {
      return changedInPlace(
        input,
        input.fields.map((field, c) => (c === k ? { ...field, column } : field)),
        notices,
      );
    }
    return withColumns(
      input,
      k,
      [{ field: { name: params.into, nameOrigin: 'named', column }, origin: { ...fromColumn(k), name: [] } }],
      undefined,
      notices,
    );
  },
});

function crosswalkText(crosswalk: Params['crosswalk']): string {
  return few(crosswalk.map(({ from, to }) => `${from} is ${to || 'blank'}`)) || 'no crosswalk yet';
}

function recoded(column: Column, params: Params): { column: Column; notices: Notice[] } {
  const code = (text: string) => (params.exact ? text.trim() : text.trim().toLowerCase());
  const meanings = new Map(params.crosswalk.map(({ from, to }) => [code(from), to]));
  const { codes, texts } = textView(column);
  const dictionary = new Dictionary();
  const known = texts.map((text) => meanings.get(code(text)));
  const recode = Int32Array.from(texts, (text, code) => {
    const meaning = known[code];
    if (meaning !== undefined) return meaning === '' ? -1 : dictionary.code(meaning);
    return params.unmatched === 'keep' ? dictionary.code(text) : -1;
  });
  const unmatched: number[] = [];
  const others = new Set<string>();
  const out = codes.map((code, r) => {
    if (code < 0) return -1;
    if (known[code] === undefined) {
      unmatched.push(r);
      others.add(texts[code]!);
    }
    return recode[code]!;
  });
  const done = codes.reduce((n, code) => (code >= 0 && known[code] !== undefined ? n + 1 : n), 0);
  const notices: Notice[] = [
    { severity: 'info', text: `${counted(done, 'cell')} recoded` },
    ...lookAt(
      unmatched,
      'after',
      `${counted(unmatched.length, 'cell')} with codes that are not in the crosswalk: ${few([...others])}`,
      params.into ?? params.column,
    ),
  ];
  const plain: Column = { type: 'text', codes: out, dictionary: dictionary.texts, distinct: true };
  if (params.unmatched !== 'list' || unmatched.length === 0) return { column: plain, notices };
  const cells = [...others].map((text) => ({ text, reason: 'not in the crosswalk' }));
  const indexOf = new Map(cells.map(({ text }, n) => [text, n]));
  const listed: ReceivedColumn = {
    type: 'received',
    tags: Uint8Array.from(out, (code) => (code < 0 ? Tag.blank : Tag.text)),
    values: Float64Array.from(out, (code) => Math.max(0, code)),
    dictionary: dictionary.texts,
    cells,
  };
  for (const r of unmatched) {
    listed.tags[r] = Tag.unreadable;
    listed.values[r] = indexOf.get(texts[codes[r]!]!)!;
  }
  return { column: listed, notices };
}
