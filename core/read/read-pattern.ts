import { z } from 'zod';
import { blank, option } from '../steps/sentence.ts';
import { counted, few, StepFailure } from '../steps/step.ts';
import { compileTemplate } from '../values/template.ts';
import type { ReadKind } from './read-kind.ts';
import { ENCODING, encodingBlank, type LineSpan, lineColumn, lineTable, textLines } from './text-lines.ts';

const Params = z.object({
  source: z.string(),
  template: z
    .string()
    .min(1)
    .default('{Text}')
    .describe("A line with named pieces in braces: '[{Time}] {Gate}: {Message}'"),
  rest: z.string().min(1).default('Line').describe('Column that keeps the lines that do not match'),
  encoding: ENCODING,
});
type Params = z.infer<typeof Params>;

/** Lines that look like a log: a time at the front, then pieces divided by brackets, quotes or blanks. */
export function guessTemplate(lines: readonly string[]): string {
  const sample = lines.filter((line) => line.trim() !== '').slice(0, 200);
  const candidates = [
    '{Host} {} {User} [{Time}] "{Request}" {Status} {Size}',
    '[{Time}] [{Level}] {Message}',
    '[{Time}] {Message}',
    '{Date} {Time} [{Level}] {Message}',
    '{Date} {Time} {Level} {Message}',
    '{Name}: {Value}',
    '{First} {Rest}',
  ];
  const score = (template: string) => {
    const { pattern } = compileTemplate(template);
    return sample.filter((line) => pattern.test(line)).length;
  };
  return candidates.find((template) => score(template) >= sample.length * 0.8) ?? '{Text}';
}

export const readPattern: ReadKind<Params> = {
  kind: 'read-pattern',
  title: 'Read lines by pattern',
  params: Params,
  start: (id, source) => Params.parse({ source: id, template: guessTemplate(textLines(source, null).lines) }),
  sentence: (params, sourceName) => [
    `Read the lines of ${sourceName} as `,
    blank('template', params.template, {
      as: 'text',
      label: 'Template of a line',
      hint: 'Named pieces in braces: [{Time}] {Gate}: {Message}; {} reads over a piece',
    }),
    option(
      params.rest === 'Line',
      ', lines that do not match in ',
      blank('rest', params.rest, { as: 'text', label: 'Column for lines that do not match' }),
    ),
    option(params.encoding === null, ', encoding ', encodingBlank(params.encoding)),
  ],
  read(source, params, context) {
    const { lines, notices } = textLines(source, params.encoding);
    const { pattern, names } = template(params.template);
    const matches = lines.map((line) => pattern.exec(line.trimEnd()));
    context.progress(0.5);
    const unmatched: number[] = [];
    lines.forEach((line, r) => {
      if (matches[r] === null && line.trim() !== '') unmatched.push(r);
    });
    const columns = names.map((name, k) => ({
      name,
      column: lineColumn(lines, (_, r) => matches[r]?.[k + 1]?.trim() ?? ''),
    }));
    const told =
      unmatched.length === 0
        ? []
        : [
            {
              tone: 'look' as const,
              text: `${counted(unmatched.length, 'line')} did not match: ${few(unmatched.slice(0, 4).map((r) => lines[r]!.trim()))}`,
              column: params.rest,
              rows: { of: 'after' as const, rows: Int32Array.from(unmatched) },
            },
          ];
    const rest = {
      name: params.rest,
      column: lineColumn(lines, (line, r) => (matches[r] === null ? line.trim() : '')),
    };
    return lineTable(source, [...columns, rest], lines, [
      ...notices,
      { tone: 'told', text: `${counted(lines.length - unmatched.length, 'line')} matched` },
      ...told,
    ]);
  },
};

/** Where on a line its pieces stand. */
export function patternSpans(params: { template: string }): (line: string) => { spans: LineSpan[]; fits: boolean } {
  const { pattern, names } = template(params.template);
  const indexed = new RegExp(pattern.source, `${pattern.flags}d`);
  return (line) => {
    const match = indexed.exec(line.trimEnd());
    if (match === null) return { spans: [{ from: 0, to: line.length, column: names.length }], fits: false };
    const spans = names.map((_, column) => {
      const [from, to] = match.indices?.[column + 1] ?? [0, 0];
      return { from, to, column };
    });
    return { spans, fits: true };
  };
}

function template(text: string): { pattern: RegExp; names: string[] } {
  try {
    const compiled = compileTemplate(text);
    if (compiled.names.length === 0) throw new Error(`${text} names no piece: put one in braces, as in {Time}`);
    return compiled;
  } catch (error) {
    throw new StepFailure(`The template cannot be used. ${(error as Error).message}.`);
  }
}
