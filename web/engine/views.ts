import {
  blankMask,
  type Column,
  cellText,
  cellType,
  columnLength,
  columnLetters,
  countUnreadable,
  displayedText,
  type LineReader,
  type Mark,
  type MethodRun,
  type Print,
  type PrintedPage,
  pageCells,
  profile,
  type Report,
  type ReportPart,
  rowFates,
  type StepRun,
  spansOf,
  stretchOf,
  type Table,
  textView,
  unreadableCells,
} from '../../core/index.ts';
import type {
  CellKind,
  CellView,
  ColumnView,
  LineView,
  MethodView,
  PrintLineView,
  PrintView,
  ReportView,
  RowView,
  StepView,
  TextView,
} from './protocol.ts';

const STRIP_STRETCHES = 40;
const WIDTH_SAMPLE = 200;
/** Rows up to which different texts are counted in a column that is still the bytes of its source. */
const MAX_COUNTED = 200_000;

export function methodView(run: MethodRun, milliseconds: number): MethodView {
  const last = run.steps.at(-1);
  return {
    steps: run.steps.map(stepView),
    stop: run.stop,
    fates: last === undefined ? [] : rowFates(run, run.steps.length - 1).counts(),
    unreadable: last === undefined ? 0 : unreadableCells(last.table),
    milliseconds,
  };
}

export function stepView(run: StepRun): StepView {
  return {
    rows: run.table.rows,
    columns: run.table.fields.map((field) => ({
      name: field.name,
      type: field.column.type,
      nameOrigin: field.nameOrigin,
    })),
    notices: run.notices.map(({ severity, text, column, rows }) => ({
      severity,
      text,
      column,
      rows: rows === undefined ? undefined : { of: rows.of, count: rows.rows.length, first: rows.rows[0] ?? 0 },
    })),
    piles: run.aside.map((pile) => ({
      name: pile.name,
      mark: pile.mark,
      rows: pile.rows.length,
      columns: pile.columns?.length ?? 0,
    })),
  };
}

const columnViews = new WeakMap<Column, Omit<ColumnView, 'name' | 'nameOrigin' | 'type'>>();

export function tableColumns(table: Table): ColumnView[] {
  return table.fields.map((field) => {
    let view = columnViews.get(field.column);
    if (view === undefined) {
      view = describeColumn(field.column);
      columnViews.set(field.column, view);
    }
    return { ...view, name: field.name, nameOrigin: field.nameOrigin, type: field.column.type };
  });
}

function describeColumn(column: Column): Omit<ColumnView, 'name' | 'nameOrigin' | 'type'> {
  const n = columnLength(column);
  const blanks = blankMask(column);
  const strip: number[] = [];
  const stretches = Math.min(STRIP_STRETCHES, n);
  for (let s = 0; s < stretches; s++) {
    const [from, to] = [Math.floor((s * n) / stretches), Math.floor(((s + 1) * n) / stretches)];
    let blank = 0;
    for (let r = from; r < to; r++) blank += blanks[r]!;
    strip.push(to === from ? 0 : 1 - blank / (to - from));
  }
  return {
    strip,
    distinct:
      column.type === 'text' && (n <= MAX_COUNTED || spansOf(column) === undefined) ? countDistinct(column) : undefined,
    mixture: column.type === 'received' ? kindsOf(column) : undefined,
    unreadable: countUnreadable(column),
    characters: longest(stretchOf(column, 0, Math.min(n, WIDTH_SAMPLE))),
  };
}

function countDistinct(column: Column): number {
  const { codes, texts } = textView(column);
  const used = new Uint8Array(texts.length);
  let count = 0;
  for (const code of codes) {
    if (code < 0 || used[code] === 1) continue;
    used[code] = 1;
    count++;
  }
  return column.type === 'text' && !column.distinct ? new Set(texts.filter((_, code) => used[code] === 1)).size : count;
}

function kindsOf(column: Column): string[] {
  const kinds = new Set<string>();
  const n = columnLength(column);
  for (let r = 0; r < n && kinds.size < 8; r++) {
    const type = cellType(column, r);
    if (type !== 'blank') kinds.add(type);
  }
  return [...kinds];
}

function longest(column: Column): number {
  let most = 0;
  for (let r = 0; r < columnLength(column); r++) most = Math.max(most, cellText(column, r)?.length ?? 0);
  return most;
}

/**
 * A length that fits every figure, and all but the longest twentieth of the texts: titles and notes run on over blank
 * cells, figures must never be cut.
 */
function usualLength(rows: number, column: Column, text: (row: number) => string | null): number {
  const lengths: number[] = [];
  let figures = 0;
  for (let r = 0; r < rows; r++) {
    const length = text(r)?.length ?? 0;
    if (length === 0) continue;
    if (cellType(column, r) === 'text') lengths.push(length);
    else figures = Math.max(figures, length);
  }
  lengths.sort((a, b) => a - b);
  return Math.max(figures, lengths[Math.floor((lengths.length - 1) * 0.94)] ?? 0);
}

export function tableRows(table: Table, from: number, to: number): RowView[] {
  const end = Math.max(from, Math.min(to, table.rows));
  // Columns that are not gathered yet stay so.
  const columns = table.fields.map((field) => stretchOf(field.column, from, end));
  return Array.from({ length: end - from }, (_, r) => ({
    cells: columns.map((column) => cellView(column, r, cellText(column, r))),
  }));
}

function cellView(column: Column, row: number, text: string | null): CellView {
  return { text: text ?? '', kind: kindOf(column, row, text) };
}

function kindOf(column: Column, row: number, text: string | null): CellKind {
  const type = cellType(column, row);
  if (type === 'blank' || type === 'unreadable') return type;
  if (type === 'text') return text === '' ? 'empty' : 'text';
  return type === 'number' || type === 'whole' ? 'counted' : 'text';
}

export function reportView(report: Report): ReportView {
  return {
    format: report.format,
    parts: report.parts.map((part) => ({
      name: part.name,
      rows: part.rows,
      hidden: part.hidden,
      hiddenRows: part.hiddenRows ?? [],
      hiddenColumns: part.hiddenColumns ?? [],
      lines: part.text !== undefined,
      printed: part.print !== undefined,
      merges: part.merges,
      comments: part.comments,
      columns: part.columns.map((column, c) => {
        const inMerge = new Set(
          part.merges.filter((merge) => merge.column === c && merge.columns > 1).map((merge) => merge.row),
        );
        return {
          letters: part.names?.[c] ?? columnLetters(c),
          characters: usualLength(Math.min(part.rows, WIDTH_SAMPLE), column, (r) =>
            inMerge.has(r) ? null : displayedText(part, r, c),
          ),
          counted: column.type === 'received',
        };
      }),
    })),
  };
}

/** Lines beyond these do not change a profile much. */
const PROFILE_LINES = 20_000;
const WIDEST_PROFILE = 400;
const MISFIT_EXAMPLES = 3;

export function textProfile(lines: readonly string[], read: LineReader): TextView {
  const fitting: string[] = [];
  const examples: string[] = [];
  let misfits = 0;
  let width = 0;
  for (const line of lines) {
    if (line.length > width) width = line.length;
    if (line.trim() === '') continue;
    if (read(line).fits) {
      if (fitting.length < PROFILE_LINES) fitting.push(line);
      continue;
    }
    misfits++;
    if (examples.length < MISFIT_EXAMPLES) examples.push(line.trim().replace(/\s+/g, ' ').slice(0, 60));
  }
  const counts = profile(fitting, Math.min(width, WIDEST_PROFILE));
  return {
    width,
    profile: Array.from(counts, (count) => count / Math.max(1, fitting.length)),
    misfits,
    examples,
  };
}

export function lineViews(
  part: ReportPart,
  from: number,
  to: number,
  markOf: (row: number) => Mark | undefined,
  read: LineReader,
): LineView[] {
  const lines = part.text ?? [];
  const views: LineView[] = [];
  for (let r = from; r < Math.min(to, lines.length); r++)
    views.push({ text: lines[r]!, ...read(lines[r]!), mark: markOf(r) });
  return views;
}

export function printView({ pages }: Print): PrintView {
  const counts = new Float64Array(Math.ceil(Math.max(...pages.map((page) => page.width))));
  const lines = pages.flatMap((page) => page.lines).slice(0, PROFILE_LINES);
  for (const { words } of lines)
    for (const { left, right } of words)
      for (let x = Math.max(0, Math.floor(left)); x < Math.min(right, counts.length); x++) counts[x]!++;
  const sizes = lines.map((line) => line.size).sort((a, b) => a - b);
  return {
    pages: pages.map(({ number, width, height, first }) => ({ number, width, height, first })),
    size: sizes[Math.floor(sizes.length / 2)] ?? 10,
    profile: Array.from(counts, (count) => Math.min(1, count / Math.max(1, lines.length))),
  };
}

export function printLines(
  { cuts }: Print,
  page: PrintedPage,
  markOf: (row: number) => Mark | undefined,
): PrintLineView[] {
  return page.lines.map((line, k) => ({
    baseline: line.baseline,
    size: line.size,
    words: pageCells(line, cuts).flatMap((words, column) =>
      words.map(({ text, left, right, size }) => ({ text, left, right, size, column })),
    ),
    mark: markOf(page.first + k),
  }));
}

export function reportRows(
  report: Report,
  part: number,
  from: number,
  to: number,
  markOf: (row: number) => Mark | undefined,
): RowView[] {
  const sheet = report.parts[part]!;
  const rows: RowView[] = [];
  for (let r = from; r < Math.min(to, sheet.rows); r++) {
    const cells = sheet.columns.map((column, c) => cellView(column, r, displayedText(sheet, r, c)));
    rows.push({ cells, mark: markOf(r) });
  }
  return rows;
}
