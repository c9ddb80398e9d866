import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, columnBlank } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type Pile, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { textColumn } from '../../table/builder.ts';
import { unseenMask } from '../../table/column.ts';
import { invertMask, maskedRows, takeRows } from '../../table/gather.ts';
import { sameColumns, takenRows } from '../../table/origin.ts';
import { type Table, uniqueName } from '../../table/table.ts';
import { textView } from '../../values/cell-text.ts';
import { counted } from '../../values/counted.ts';
import { idleNotice } from '../result.ts';

const Params = z.object({
  column: columnName().describe('Column whose texts are indented'),
  into: z
    .array(z.string().min(1))
    .min(1)
    .describe('Names of columns for the levels above the innermost, outermost first'),
  parents: z
    .enum(['set aside', 'keep'])
    .default('set aside')
    .describe('Rows with deeper ones under them: their figures are sums, or they have none'),
});
type Params = z.infer<typeof Params>;

export const levelsWords: StepDescriptor<Params> = {
  kind: 'levels',
  drops: true,
  title: 'Levels by indentation',
  summary: 'Indented texts belong to the text above: each level becomes a column, and the parent rows are set aside',
  searchTerms: ['indent', 'hierarchy', 'outline', 'tree', 'nested labels', 'parent and child', 'leading spaces'],
  params: Params,
  headline: ({ column, into }) => `Split levels of ${namesPhrase([column])} into ${counted(into.length, 'column')}`,
  sentence: (params) => [
    'Levels of ',
    columnBlank('column', params.column, 'Column whose texts are indented'),
    ' by how far its texts stand in: the levels above into ',
    blank('into', params.into.join(', '), { as: 'lines', label: 'Names of the levels above, the outermost first' }),
    ', rows with deeper ones under them ',
    blank('parents', params.parents === 'keep' ? 'kept' : 'set aside', {
      as: 'choice',
      label: 'Rows with deeper ones under them',
      choices: [
        { value: 'set aside', label: 'set aside' },
        { value: 'keep', label: 'kept' },
      ],
    }),
  ],
};

/** How far a text stands in; a tab counts as four characters. */
export function indentOf(text: string): number {
  let width = 0;
  for (const sign of text) {
    if (sign === '\t') width += 4;
    else if (/[\s\u00a0]/.test(sign)) width++;
    else if ((sign === '·' || sign === '.' || sign === '–' || sign === '>') && width > 0) width++;
    else break;
  }
  return width;
}

/** For each row how deep it stands, from 0 on; -1 where the column is blank. */
export function depthsOf(table: Table, column: number): { depths: Int32Array; levels: number } {
  const { codes, texts } = textView(table.fields[column]!.column);
  const widths = texts.map(indentOf);
  const used = new Set<number>();
  for (const code of codes) if (code >= 0 && texts[code]!.trim() !== '') used.add(widths[code]!);
  const order = [...used].sort((a, b) => a - b);
  const depthOf = new Map(order.map((width, depth) => [width, depth]));
  const depths = new Int32Array(codes.length);
  codes.forEach((code, r) => {
    depths[r] = code < 0 || texts[code]!.trim() === '' ? -1 : depthOf.get(widths[code]!)!;
  });
  return { depths, levels: order.length };
}

export const levels = /* @__PURE__ */ stepKind<Params>(levelsWords, {
  start: (table, columns) => {
    const column = columns[0] ?? table.fields.find((field) => field.nameOrigin !== 'beside')?.name ?? '';
    const index = table.fields.findIndex((field) => field.name === column);
    const found = index < 0 ? 2 : depthsOf(table, index).levels;
    return {
      column,
      into: Array.from({ length: Math.min(6, Math.max(1, found - 1)) }, (_, k) => `Level ${k + 1}`),
      parents: 'set aside',
    };
  },
  run(input, params) {
    const index = needColumn(input, params.column);
    const { depths, levels: found } = depthsOf(input, index);
    if (found > params.into.length + 1)
      throw new StepFailure(
        `${params.column} stands in by ${counted(found, 'different width')}, but there are names for ${counted(params.into.length, 'level')} above the innermost: name ${found - 1}.`,
        params.column,
      );
    const { codes, texts } = textView(input.fields[index]!.column);
    const above = params.into.map(() => new Int32Array(input.rows).fill(-1));
    const parent = new Uint8Array(input.rows);
    const path: number[] = [];
    let last = -1;
    for (let r = 0; r < input.rows; r++) {
      const depth = depths[r]!;
      if (depth < 0) continue;
      if (last >= 0 && depth > depths[last]!) parent[last] = 1;
      path.length = Math.min(path.length, depth);
      for (let d = path.length; d < depth; d++) path[d] = -1;
      above.forEach((rows, d) => {
        if (d < depth) rows[r] = path[d] ?? -1;
      });
      path[depth] = r;
      last = r;
    }
    const away = params.parents === 'keep' ? new Uint8Array(input.rows) : parent;
    const kept = maskedRows(invertMask(away));
    const gone = maskedRows(away);
    const body = takeRows(input, kept);
    const fields = [...body.fields];
    const origin = [...sameColumns(input.fields.length, takenRows(kept))];
    const taken = new Set(body.fields.map((field) => field.name));
    const notices: Notice[] = [];
    const textOf = (r: number) => (r < 0 || codes[r]! < 0 ? null : texts[codes[r]!]!.trim());
    // The innermost keeps its column, without the spaces in front.
    fields[index] = { ...body.fields[index]!, column: textColumn(Array.from(kept, (r) => textOf(r))) };
    params.into.forEach((wanted, d) => {
      const name = uniqueName(wanted, taken);
      const rows = kept.map((r) => above[d]![r]!);
      fields.splice(index + d, 0, {
        name,
        nameOrigin: 'beside',
        column: textColumn(Array.from(rows, (r) => textOf(r))),
      });
      origin.splice(index + d, 0, { cells: [{ role: 'label', rows: takenRows(rows), column: index }], name: [] });
      if (name !== wanted)
        notices.push({ severity: 'warning', text: `named ${name}, as ${wanted} was taken`, column: name });
    });
    const aside: Pile[] = [];
    const filled = new Uint8Array(input.rows);
    input.fields.forEach((field, k) => {
      if (k === index || field.nameOrigin === 'beside') return;
      const unseen = unseenMask(field.column);
      for (let r = 0; r < filled.length; r++) if (unseen[r] === 0) filled[r] = 1;
    });
    const figured = gone.filter((r) => filled[r] === 1);
    const plain = gone.filter((r) => filled[r] === 0);
    if (figured.length > 0) aside.push({ name: 'totals', mark: 'total', rows: figured });
    if (plain.length > 0) aside.push({ name: 'labels', mark: 'label', rows: plain });
    notices.unshift(
      gone.length === 0 && params.parents !== 'keep'
        ? idleNotice('no text stands deeper than the one above')
        : {
            severity: 'info',
            text: `${counted(found, 'level')}, ${counted(gone.length, 'row')} above others set aside`,
          },
    );
    return { table: { rows: body.rows, fields }, origin, aside, notices };
  },
});
