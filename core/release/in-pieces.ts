/** A method on a file that is too large to hold: piece by piece, where each row depends on itself alone. */

import type { Job, JobStep, JobTable } from '../document/job.ts';
import { fullTables } from '../document/step-set.ts';
import { LINE, RETURN } from '../read/ascii.ts';
import { readDelimited } from '../read/delimited/read-delimited.ts';
import { endOfRows } from '../read/delimited/row-ends.ts';
import { tokenizeDelimited } from '../read/delimited/tokenize.ts';
import { decodeSource, firstInvalidUtf8 } from '../read/encoding.ts';
import { looksAround } from '../rules/rules.ts';
import { Runner } from '../run/run.ts';
import { cellsOfReport } from '../run/trace.ts';
import { CATALOGUE } from '../steps/catalogue.ts';
import { type Table, unreadableCells } from '../table/table.ts';
import { grouped } from '../values/counted.ts';

/** Why a method cannot run piece by piece, or stopped. */
export class PiecesFailure extends Error {
  override name = 'PiecesFailure';
}

const quiet = { progress: () => undefined };
/** What a piece gave. */
export interface PieceMade {
  table: Table;
  /** Rows of the report in it, rows on piles, and cells that could not be read. */
  received: number;
  aside: ReadonlyMap<string, number>;
  unreadable: number;
}

/** What the first piece tells, and every other needs. */
export interface PiecesBegun {
  encoding: string | null;
  /** Names and types of the columns that each piece must give. */
  columns: string;
  /** What stands above the data. */
  front: Uint8Array;
  frontRows: number;
}

/** Runs a method on a text piece by piece; the pieces one after the other give the table of the whole. */
export class InPieces {
  private readonly steps: readonly JobStep[];
  private readonly runner = new Runner(0);
  private encoding: string | null;
  /** What stands above the data, which the header is made of again for each piece. */
  private front: Uint8Array = new Uint8Array();
  private frontRows = 0;
  private columns: string | undefined;
  /** Bytes of the pieces so far. */
  private at = 0;

  /**
   * @param lineAt says the line in which a byte of the file stands, both counted from 0; asked only to tell where it failed
   * @throws PiecesFailure that names the step which needs the whole table
   */
  constructor(
    private readonly job: Job,
    private readonly table: JobTable,
    private readonly source: string,
    private readonly file: string,
    private readonly lineAt: (byte: number) => number,
  ) {
    this.steps = table.steps.filter((step) => step.muted !== true);
    const [reading, ...others] = this.steps;
    if (reading?.kind !== 'read-delimited' && reading?.kind !== 'read-fixed-width')
      throw new PiecesFailure(
        `${table.name} does not begin with delimited text or fixed columns: only those are read piece by piece. Give a smaller file, or split it.`,
      );
    others.forEach((step, k) => {
      const why = whyWhole(step, k === 0);
      if (why !== undefined)
        throw new PiecesFailure(
          `Step ${k + 2} of ${table.name} (${step.kind}) needs the whole table: ${why}. Split the file and run the method on each part, or leave the step out.`,
        );
    });
    this.encoding = (reading.params['encoding'] as string | null | undefined) ?? null;
  }

  /** What the first piece told; undefined before it ran. */
  get begun(): PiecesBegun | undefined {
    const { encoding, columns, front, frontRows } = this;
    return columns === undefined ? undefined : { encoding, columns, front, frontRows };
  }

  /** Goes on behind a first piece that ran elsewhere, at a byte of the file. */
  goOn({ encoding, columns, front, frontRows }: PiecesBegun, at: number): void {
    Object.assign(this, { encoding, columns, front, frontRows, at });
  }

  /**
   * How many of these bytes are whole rows. @param isLast nothing follows them
   * @returns 0 where not one row ends in them
   */
  wholeRows(bytes: Uint8Array, isLast: boolean): number {
    if (isLast) return bytes.length;
    const [reading] = this.steps;
    if (reading!.kind === 'read-fixed-width') return bytes.lastIndexOf(LINE) + 1;
    const form = readDelimited.params.parse(reading!.params);
    const end = endOfRows(bytes, form);
    if (end > 0) return end;
    const { lines, rows } = tokenizeDelimited(this.file, bytes, this.encoding ?? 'utf-8', form, quiet);
    // The last row may go on in what follows.
    return rows < 2 ? 0 : offsetOfLine(bytes, lines[rows - 1]!);
  }

  /** Runs the next piece. @param bytes whole rows @throws PiecesFailure */
  next(bytes: Uint8Array): PieceMade {
    const isFirst = this.columns === undefined;
    if (isFirst && this.encoding === null) this.encoding = encodingOf(bytes, this.file);
    const place = () => `in the piece from line ${grouped(this.lineAt(this.at) + 1)} on`;
    if (/^utf-?8$/i.test(this.encoding!) && firstInvalidUtf8(bytes) >= 0)
      throw new PiecesFailure(
        `${this.file} is not all ${this.encoding} (${place()}). State its encoding in the reading, as windows-1252, say.`,
      );
    const whole = isFirst ? bytes : joined(this.front, bytes);
    const [reading, ...others] = this.steps;
    const steps = [{ ...reading!, params: { ...reading!.params, encoding: this.encoding } }, ...others];
    const table = { ...this.table, steps };
    this.runner.setSource(this.source, { name: this.file, bytes: whole });
    const tables = fullTables({
      ...this.job,
      tables: this.job.tables.map((one) => (one.id === table.id ? table : one)),
    });
    const run = this.runner.runTable(tables, table.id, quiet);
    if (run.stop !== undefined) throw new PiecesFailure(`${this.file}: ${run.stop.message} (${place()})`);
    const last = run.steps.at(-1)!;
    const columns = last.table.fields.map((field) => `${field.name} (${field.column.type})`).join(', ');
    if (isFirst) {
      this.columns = columns;
      this.front = this.frontOf(run, whole);
    } else if (columns !== this.columns)
      throw new PiecesFailure(
        `${this.file} gives other columns ${place()}: ${columns}; before it was ${this.columns}. Set the types of all columns, and check the lines there.`,
      );
    // The front comes again with every piece, and counts once.
    const again = isFirst ? 0 : this.frontRows;
    const aside = new Map<string, number>();
    run.steps.forEach((step, k) => {
      for (const { name, rows } of step.aside) {
        const own = k === 1 ? rows.filter((row) => row >= again).length : rows.length;
        if (own > 0) aside.set(name, (aside.get(name) ?? 0) + own);
      }
    });
    const received = run.steps[0]!.table.rows - again;
    this.at += bytes.length;
    this.runner.forget();
    return { table: last.table, received, aside, unreadable: unreadableCells(last.table) };
  }

  /** The bytes above the first row of data, where a header is made of them. */
  private frontOf(run: ReturnType<Runner['runTable']>, bytes: Uint8Array): Uint8Array<ArrayBuffer> {
    if (this.steps[1]?.kind !== 'header-from-rows') return new Uint8Array();
    const { table } = run.steps[1]!;
    if (table.rows === 0) throw new PiecesFailure(`${this.file} has no rows below its header.`);
    const rows = table.fields.flatMap((_, column) => cellsOfReport(run, 1, { row: 0, column }).map((cell) => cell.row));
    const first = Math.min(...rows.filter((row) => row >= 0));
    this.frontRows = first;
    const part = run.steps[0]!.reading!.report.parts[0]!;
    return bytes.slice(0, offsetOfLine(bytes, part.lines?.[first] ?? first));
  }
}

/** Why a step needs the whole table; undefined where it does not. */
function whyWhole({ kind, params }: JobStep, isSecond: boolean): string | undefined {
  if (kind === 'header-from-rows') {
    if (!isSecond) return 'a header step must come directly after reading';
    return params['within'] === undefined ? undefined : 'it looks for a header in every part';
  }
  if (CATALOGUE.get(kind)?.rowByRow !== true) return 'its result depends on other rows';
  const rule = findRule(params);
  return rule === undefined ? undefined : `its rule (${rule}) asks where a row stands`;
}

function findRule(value: unknown): string | undefined {
  if (Array.isArray(value)) {
    for (const one of value) {
      const found = findRule(one);
      if (found !== undefined) return found;
    }
    return undefined;
  }
  if (typeof value !== 'object' || value === null) return undefined;
  const { test, by } = value as { test?: unknown; by?: unknown };
  if (typeof test === 'string' && looksAround(test)) return test;
  // Columns that are chosen by what they hold, or a whole table depends on.
  if (by === 'blank' || by === 'constant') return `columns that are ${by}`;
  return findRule(Object.values(value));
}

function encodingOf(bytes: Uint8Array, file: string): string {
  const { encoding } = decodeSource(bytes, null, file);
  if (encoding.startsWith('utf-16'))
    throw new PiecesFailure(`${file} is ${encoding}, which is not read piece by piece. Save it as UTF-8.`);
  return encoding;
}

/** Where a line begins, counted from 0. */
function offsetOfLine(bytes: Uint8Array, line: number): number {
  let at = 0;
  if (holdsLoneReturn(bytes)) {
    for (let left = line; left > 0 && at < bytes.length; at++)
      if (bytes[at] === LINE || (bytes[at] === RETURN && bytes[at + 1] !== LINE)) left--;
    return at;
  }
  for (let left = line; left > 0; left--) {
    const feed = bytes.indexOf(LINE, at);
    if (feed < 0) return bytes.length;
    at = feed + 1;
  }
  return at;
}

/** Whether a line ends with a carriage return alone. */
function holdsLoneReturn(bytes: Uint8Array): boolean {
  for (let at = bytes.indexOf(RETURN); at >= 0; at = bytes.indexOf(RETURN, at + 1))
    if (bytes[at + 1] !== LINE) return true;
  return false;
}

function joined(one: Uint8Array, other: Uint8Array): Uint8Array<ArrayBuffer> {
  const both = new Uint8Array(one.length + other.length);
  both.set(one);
  both.set(other, one.length);
  return both;
}
