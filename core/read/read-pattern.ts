import { z } from 'zod';
import { blank, option } from '../kinds/sentence.ts';
import { type Notice, StepFailure } from '../kinds/step.ts';
import { counted, few, grouped } from '../values/counted.ts';
import { compileTemplate, type PieceSpan, type Template } from '../values/template.ts';
import type { LineSpan } from './line-reader.ts';
import { guessTemplates } from './log-forms.ts';
import { packedTemplate } from './packed-lines.ts';
import { type ReadWords, readKind } from './read-kind.ts';
import { ENCODING, encodingBlank, headLines, lineColumn, lineTable, textLines, withoutFront } from './text-lines.ts';

const Params = z.object({
  source: z.string(),
  template: z
    .string()
    .min(1)
    .default('{Text}')
    .describe(
      "A line with named pieces in braces: '[{Time:time}] {Gate}: {Message}'; a piece may be a time, a word or a number",
    ),
  others: z
    .array(z.string().min(1))
    .default([])
    .describe('Templates that are tried in turn on lines that do not match the first'),
  rest: z.string().min(1).default('Line').describe('Column that keeps the lines that do not match'),
  encoding: ENCODING,
});
type Params = z.infer<typeof Params>;

export const readPatternWords: ReadWords<Params> = {
  kind: 'read-pattern',
  title: 'Read lines by pattern',
  tab: 'lines by pattern',
  page: 'template',
  params: Params,
  headline: () => 'Read lines by a template',
  lineSpans: patternSpans,
  sentence: (params, sourceName) => [
    `Read the lines of ${sourceName} as `,
    blank('template', params.template, {
      as: 'text',
      label: 'Template of a line',
      hint: 'Named pieces in braces: [{Time:time}] {Gate}: {Message}; {} skips text; write {Name:word}, {Name:number} or {Name:time}',
    }),
    option(
      params.others.length === 0,
      ', else by ',
      blank('others', params.others.length === 0 ? 'nothing else' : counted(params.others.length, 'other template'), {
        as: 'lines',
        label: 'Templates for lines that do not match, tried in turn',
      }),
    ),
    option(
      params.rest === 'Line',
      ', lines that do not match in ',
      blank('rest', params.rest, { as: 'text', label: 'Column for lines that do not match' }),
    ),
    option(params.encoding === null, ', encoding ', encodingBlank(params.encoding)),
  ],
};

export const readPattern = /* @__PURE__ */ readKind<Params>(readPatternWords, {
  start: (id, source) => {
    const packed = packedTemplate(withoutFront(headLines(source)));
    const [template = '{Text}', ...others] =
      packed === undefined ? guessTemplates(textLines(source, null).lines) : [packed];
    return Params.parse({ source: id, template, others });
  },
  read(source, params, context) {
    const { lines, notices } = textLines(source, params.encoding);
    const reader = readerOf(params);
    const matches = lines.map((line, r) => {
      if ((r & 0xfff) === 0) context.progress((r / lines.length) * 0.7);
      return reader.read(line.trimEnd());
    });
    const cells = (match: Match | undefined, line: string, name: number) => {
      const span = match?.spans[name];
      return span === undefined ? '' : line.slice(span.from, span.to).trim();
    };
    const columns = reader.names.map((name, k) => ({
      name,
      column: lineColumn(lines, (line, r) => cells(matches[r], line, k)),
    }));
    const rest = {
      name: params.rest,
      column: lineColumn(lines, (line, r) => (matches[r] === undefined ? line.trimEnd() : '')),
    };
    return lineTable(source, [...columns, rest], lines.length, () => lines, [
      ...notices,
      ...matchNotices(
        lines,
        matches.map((match) => match?.template),
        params,
      ),
    ]);
  },
});

function matchNotices(lines: readonly string[], by: readonly (number | undefined)[], params: Params): Notice[] {
  const unmatched = lines.flatMap((line, r) => (by[r] === undefined && line.trim() !== '' ? [r] : []));
  const matched = by.filter((template) => template !== undefined).length;
  const told: Notice[] = [
    { severity: matched === 0 ? 'warning' : 'info', text: `${counted(matched, 'line')} matched` },
  ];
  const counts = [params.template, ...params.others].map((_, k) => by.filter((one) => one === k).length);
  if (counts.length > 1 && matched > 0)
    told.push({
      severity: 'info',
      text: `by template in turn: ${counts.map((count) => grouped(count)).join(', ')}`,
    });
  const idle = params.others.filter((_, k) => counts[k + 1] === 0);
  if (idle.length > 0)
    told.push({ severity: 'warning', text: `no line matched ${counted(idle.length, 'template')}: ${few(idle, 2)}` });
  if (unmatched.length > 0) {
    told.push({
      severity: 'warning',
      text: `${counted(unmatched.length, 'line')} did not match: ${few(unmatched.slice(0, 4).map((r) => lines[r]!.trim().slice(0, 80)))}`,
      column: params.rest,
      rows: { of: 'after', rows: Int32Array.from(unmatched) },
    });
  }
  return told;
}

interface Match {
  /** The template that fits, from 0. */
  template: number;
  /** Where the piece of each column stands; undefined where the template has no such piece. */
  spans: (PieceSpan | undefined)[];
}

function readerOf(params: { template: string; others?: readonly string[] }) {
  const templates = [params.template, ...(params.others ?? [])].map(template);
  const names = [...new Set(templates.flatMap((one) => one.names))];
  const columns = templates.map((one) => one.names.map((name) => names.indexOf(name)));
  const read = (line: string): Match | undefined => {
    for (let t = 0; t < templates.length; t++) {
      const found = templates[t]!.spans(line);
      if (found === null) continue;
      const spans: (PieceSpan | undefined)[] = new Array(names.length).fill(undefined);
      found.forEach((span, k) => {
        spans[columns[t]![k]!] = span;
      });
      return { template: t, spans };
    }
    return undefined;
  };
  return { names, read };
}

/** Names of the columns that the templates make, in order. @throws StepFailure for a template that cannot be used */
export function patternNames(params: { template: string; others?: readonly string[] }): string[] {
  return readerOf(params).names;
}

/** Where on a line its pieces stand. */
export function patternSpans(params: {
  template: string;
  others?: readonly string[];
}): (line: string) => { spans: LineSpan[]; fits: boolean } {
  const { names, read } = readerOf(params);
  return (line) => {
    const match = read(line.trimEnd());
    if (match === undefined) return { spans: [{ from: 0, to: line.length, column: names.length }], fits: false };
    const spans = match.spans.flatMap((span, column) => (span === undefined ? [] : [{ ...span, column }]));
    return { spans: spans.sort((a, b) => a.from - b.from), fits: true };
  };
}

function template(text: string): Template {
  try {
    const compiled = compileTemplate(text);
    if (compiled.names.length === 0) throw new Error(`${text} names no piece: put one in braces, as in {Time}`);
    return compiled;
  } catch (error) {
    throw new StepFailure(`The template cannot be used. ${(error as Error).message}.`);
  }
}
