import { columnOfKinds, nameKinds } from '../glance/period-names.ts';
import { guessReading, READINGS } from '../read/catalogue.ts';
import { ReadFailure } from '../read/read-failure.ts';
import { baseName, filesOf } from '../read/read-files.ts';
import type { Source } from '../read/read-kind.ts';
import { sheetsReport } from '../read/read-sheets.ts';
import type { ReportPart } from '../read/report.ts';
import { sniff } from '../read/sniff.ts';
import { READINGS_OF_FORMAT } from '../read/words.ts';
import { isBlank } from '../table/column.ts';
import { textView } from '../values/cell-text.ts';
import { compileTemplate } from '../values/template.ts';

/** Sheets whose styles are looked at, and cells of one. */
const MAX_STYLED = 12;
const MAX_STYLED_CELLS = 1_000_000;

export interface Reading {
  kind: string;
  params: { source: string };
  why: string;
  isCertain?: boolean;
}

/** Readings that take lines as text, with one column at least. */
const LINES = ['read-pattern', 'read-blocks'];

/** The guess at how a source is read, then the other ways for its format. @throws ReadFailure */
export function* readingsOf(sourceId: string, source: Source): Generator<Reading> {
  const found = withoutSummaries(withFileParts(guessReading(sourceId, source), source), source);
  const guess = withMergesDown(withIndents(found, source), source);
  yield guess;
  // Brackets, tags and times are no accident.
  if (guess.kind === 'read-nested' || guess.kind === 'read-pattern') return;
  if (guess.kind === 'read-delimited' && guess.isCertain) return;
  for (const kind of READINGS_OF_FORMAT[sniff(source.bytes, source.name)]) {
    if (kind === guess.kind || (guess.isCertain && LINES.includes(kind))) continue;
    try {
      yield {
        kind,
        params: READINGS.get(kind)!.start(sourceId, source),
        why: 'no other reading found a table',
      };
    } catch (error) {
      if (!(error instanceof ReadFailure)) throw error;
    }
  }
}

/** Where a piece of its name tells each file from the others, the whole name says no more; a piece is called by what it is. */
function withFileParts(guess: Reading, source: Source): Reading {
  if (guess.kind !== 'read-files') return guess;
  const params = guess.params as Reading['params'] & { nameTemplate: string | null };
  if (params.nameTemplate === null) return guess;
  const { exec } = compileTemplate(params.nameTemplate);
  const told = filesOf(source).map((file) => exec(baseName(file.name))?.[0] ?? '');
  if (told.includes('') || new Set(told).size < told.length) return guess;
  const kinds = nameKinds(told);
  const name = kinds.every((kind) => kind !== undefined) ? columnOfKinds(kinds) : 'Part';
  return {
    ...guess,
    params: {
      ...params,
      nameColumn: null,
      nameTemplate: params.nameTemplate.replace('{Part}', `{${name}}`),
    } as Reading['params'],
    why: `${guess.why}; their names differ in one part`,
  };
}

/** Leaves out sheets that sum the others: they name most of them in their cells. */
function withoutSummaries(guess: Reading, source: Source): Reading {
  if (guess.kind !== 'read-sheets') return guess;
  const { parts } = sheetsReport(source);
  const params = guess.params as Reading['params'] & {
    sheets: { by: string; names?: string[] };
    nameColumn: string | null;
  };
  const chosen = parts.filter(
    (part) => part.rows > 0 && (params.sheets.by === 'all' || params.sheets.names?.includes(part.name)),
  );
  if (chosen.length < 3) return guess;
  const summaries = chosen.filter((part) => namesOthers(part, chosen));
  if (summaries.length === 0 || summaries.length > chosen.length / 2) return guess;
  const names = chosen.filter((part) => !summaries.includes(part)).map((part) => part.name);
  return {
    ...guess,
    params: {
      ...params,
      sheets: { by: 'names', names },
      nameColumn: params.nameColumn ?? 'Sheet',
    } as Reading['params'],
    why: `${guess.why}; ${summaries.map((part) => part.name).join(', ')} ${summaries.length === 1 ? 'names' : 'name'} the other sheets and ${summaries.length === 1 ? 'is' : 'are'} left out`,
  };
}

/** Indents of cells are read as spaces where they tell levels apart: one column has several of them. */
function withIndents(guess: Reading, source: Source): Reading {
  if (guess.kind !== 'read-sheets') return guess;
  const { parts } = sheetsReport(source);
  const tells = parts.slice(0, MAX_STYLED).some((part) => {
    if (part.rows * part.columns.length > MAX_STYLED_CELLS) return false;
    const sheet = part.styles?.();
    if (sheet === undefined || !sheet.styles.some((style) => style.indent > 0)) return false;
    return sheet.columns.some((codes) => {
      const steps = new Map<number, number>();
      for (const code of codes) {
        // A cell without a style stands at the margin.
        const indent = sheet.styles[code]?.indent ?? 0;
        steps.set(indent, (steps.get(indent) ?? 0) + 1);
      }
      return steps.size >= 2 && [...steps].some(([step, count]) => step > 0 && count >= 2);
    });
  });
  return tells ? { ...guess, params: { ...guess.params, indents: 'spaces' } as Reading['params'] } : guess;
}

/** Merges behind the first column that show whose rows they are. */
const MIN_MERGES = 2;

/** Cells merged over several rows of which each says something in the column before: the merge belongs to all of them. */
function withMergesDown(guess: Reading, source: Source): Reading {
  if (guess.kind !== 'read-sheets') return guess;
  const { parts } = sheetsReport(source);
  const isTold = parts.slice(0, MAX_STYLED).some((part) => {
    const beside = part.merges.filter(({ row, rows, column, columns }) => {
      const own = part.columns[column - 1];
      if (rows < 2 || columns > 1 || own === undefined) return false;
      for (let r = row; r < Math.min(row + rows, part.rows); r++) if (isBlank(own, r)) return false;
      return true;
    });
    return beside.length >= MIN_MERGES;
  });
  return isTold ? { ...guess, params: { ...guess.params, merged: 'down' } as Reading['params'] } : guess;
}

function namesOthers(part: ReportPart, parts: readonly ReportPart[]): boolean {
  // Numbers of sheets are numbers of all kinds of things too.
  const others = parts
    .filter((one) => one !== part && /\p{L}/u.test(one.name))
    .map((one) => one.name.trim().toLowerCase());
  const texts = new Set(
    part.columns.flatMap((column) => textView(column).texts.map((text) => text.trim().toLowerCase())),
  );
  const named = others.filter((name) => texts.has(name)).length;
  return named >= 2 && named >= others.length * 0.6;
}
