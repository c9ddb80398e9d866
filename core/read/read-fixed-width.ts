import { z } from 'zod';
import { blank } from '../steps/sentence.ts';
import { counted, type Notice } from '../steps/step.ts';
import { fitsCuts, guessCuts } from './cuts.ts';
import type { ReadKind } from './read-kind.ts';
import { lineColumn, lineTable, textLines } from './text-lines.ts';

const Params = z.object({
  source: z.string(),
  cuts: z
    .array(z.number().int().min(1))
    .default([])
    .describe('Characters, from 0, at which columns begin, but for the first'),
  names: z
    .array(z.string())
    .default([])
    .describe('Names of the columns, from the left; those without are named by position'),
  tab: z.number().int().min(1).max(64).default(8).describe('Characters from one tab stop to the next'),
  encoding: z.string().nullable().default(null).describe('WHATWG label; null: guessed'),
});
type Params = z.infer<typeof Params>;

const GUESS_LINES = 2000;

export const readFixedWidth: ReadKind<Params> = {
  kind: 'read-fixed-width',
  title: 'Read fixed columns',
  params: Params,
  start: (id, source) => {
    const { lines } = textLines(source, null);
    return Params.parse({ source: id, cuts: guessCuts(lines.slice(0, GUESS_LINES)) });
  },
  sentence: (params, sourceName) => [
    `Read ${sourceName} in fixed columns, cut before characters `,
    blank('cuts', params.cuts.map((cut) => cut + 1).join(', ') || 'none', {
      as: 'cuts',
      label: 'Columns begin at characters',
    }),
    ', named ',
    blank('names', params.names.join(', ') || 'by position', {
      as: 'lines',
      label: 'Names of the columns, from the left',
    }),
    ', tab stops every ',
    blank('tab', String(params.tab), {
      as: 'count',
      label: 'Characters from tab stop to tab stop',
      least: 1,
      most: 64,
    }),
    ', encoding ',
    blank('encoding', params.encoding ?? 'guessed', {
      as: 'text',
      label: 'Encoding',
      optional: true,
      hint: 'utf-8, windows-1252 …',
    }),
  ],
  read(source, params, context) {
    const { lines, notices } = textLines(source, params.encoding, params.tab);
    const cuts = [...new Set(params.cuts)].sort((a, b) => a - b);
    const ends = [...cuts, Number.POSITIVE_INFINITY];
    const columns = ends.map((end, k) => {
      const from = k === 0 ? 0 : cuts[k - 1]!;
      context.progress((k + 1) / ends.length);
      return { name: params.names[k], column: lineColumn(lines, (line) => line.slice(from, end).trim()) };
    });
    return lineTable(source, columns, lines.length, [...notices, ...misfits(lines, cuts)]);
  },
};

/** Lines with a word across a cut: page heads and the like, or a cut in the wrong place. */
function misfits(lines: readonly string[], cuts: readonly number[]): Notice[] {
  const rows: number[] = [];
  lines.forEach((line, r) => {
    if (!fitsCuts(line, cuts)) rows.push(r);
  });
  if (rows.length === 0) return [];
  return [
    {
      tone: 'look',
      text: `${counted(rows.length, 'line')} with a word across a cut`,
      rows: { of: 'after', rows: Int32Array.from(rows) },
    },
  ];
}
