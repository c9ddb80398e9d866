import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank, columnBlank } from '../../kinds/sentence.ts';
import { needColumn, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { flags } from '../../table/vectors.ts';
import { sampleTexts, textView } from '../../values/cell-text.ts';
import { counted } from '../../values/counted.ts';
import { lookAt } from '../result.ts';
import { piecesToColumns } from '../text-pieces.ts';
import { Cutting, cutText, cuttingPhrases, guessDelimiterIn } from './cutting.ts';

const Params = z.object({
  column: columnName(),
  cut: Cutting.default(Cutting.parse({})),
  into: z.array(z.string()).min(1).describe('Names of the new columns; a piece whose name is blank is left out'),
  keep: z.boolean().default(false).describe('The column itself stays'),
});
type Params = z.infer<typeof Params>;

export const splitToColumnsWords: StepDescriptor<Params> = {
  kind: 'split-to-columns',
  rowByRow: true,
  drops: true,
  title: 'Split to columns',
  summary: 'Cuts the text of a column by delimiter, position or kind of character into several columns',
  searchTerms: ['text to columns', 'separate', 'delimiter', 'divide column', 'parts'],
  params: Params,
  headline: ({ column, into }) => `Split ${namesPhrase([column])} into ${counted(into.length, 'column')}`,
  sentence: (params) => [
    'Split ',
    columnBlank('column', params.column, 'Column to split'),
    ' ',
    ...cuttingPhrases(params.cut, 'cut'),
    ' into ',
    blank('into', params.into.map((name) => name || 'nothing').join(', '), {
      as: 'lines',
      label: 'Names of the new columns',
      hint: 'A line left blank leaves its piece out',
    }),
    ', the column itself ',
    choiceBlank('keep', params.keep, 'The column itself', [
      [true, 'kept'],
      [false, 'dropped'],
    ]),
  ],
};

export const splitToColumns = /* @__PURE__ */ stepKind<Params>(splitToColumnsWords, {
  start: (table, columns) => {
    const column = columns[0] ?? table.fields[0]?.name ?? '';
    const field = table.fields.find((one) => one.name === column);
    const texts = field === undefined ? [] : sampleTexts(field.column, 500);
    const cut = Cutting.parse({ delimiters: [guessDelimiterIn(texts)] });
    const most = Math.min(20, Math.max(2, ...texts.map((text) => cutText(text, cut).length)));
    return { column, cut, into: Array.from({ length: most }, (_, k) => `${column} ${k + 1}`), keep: false };
  },
  run(input, params) {
    const column = needColumn(input, params.column);
    if (params.into.every((name) => name.trim() === ''))
      throw new StepFailure('Name at least one column to split into.');
    const most = params.into.length;
    const { codes, texts } = textView(input.fields[column]!.column);
    const cuts = new Map(texts.map((text) => [text, cutText(text, params.cut)]));
    const isLong = flags(texts, (text) => cuts.get(text)!.length > most);
    const tooMany: number[] = [];
    if (isLong.includes(1))
      for (let r = 0; r < codes.length; r++) if (codes[r]! >= 0 && isLong[codes[r]!] === 1) tooMany.push(r);
    const notices = lookAt(
      tooMany,
      'before',
      `${counted(tooMany.length, 'cell')} with more pieces than columns, the rest kept in ${params.into.at(-1)}`,
      params.column,
    );
    const cut = (text: string) => {
      const pieces = cuts.get(text)!;
      return pieces.length <= most ? pieces : [...pieces.slice(0, most - 1), restOf(text, pieces, most, params.cut)];
    };
    const named = params.into.flatMap((name, k) => (name.trim() === '' ? [] : [k]));
    const wanted = (text: string) => {
      const pieces = cut(text);
      return named.map((k) => pieces[k] ?? null);
    };
    return piecesToColumns(
      input,
      column,
      named.map((k) => params.into[k]!),
      wanted,
      params.keep,
      notices,
    );
  },
});

/** What is left of a text behind its first pieces, with its delimiters as they stand. */
function restOf(text: string, pieces: readonly (string | null)[], most: number, cutting: Cutting): string {
  let at = 0;
  for (const piece of pieces.slice(0, most - 1)) {
    if (piece !== null) at = text.indexOf(piece, at) + piece.length;
    if (cutting.by !== 'delimiter') continue;
    const next = cutting.delimiters.flatMap((one) => {
      const found = one === '' ? -1 : text.indexOf(one, at);
      return found < 0 ? [] : [[found, found + one.length] as const];
    });
    at = next.sort((a, b) => a[0] - b[0] || b[1] - a[1])[0]?.[1] ?? at;
  }
  return text.slice(at).trim();
}
