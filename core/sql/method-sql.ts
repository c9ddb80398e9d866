/** A method as one SQL script: a query for each step, over the table as it stands when all that SQL cannot say is done. */

import { type Job, jobNames } from '../document/job.ts';
import { stepSentence } from '../document/sentence-of.ts';
import { sentenceText } from '../kinds/sentence.ts';
import { FROM_TABLE } from '../read/from-table.ts';
import type { MethodRun } from '../run/run.ts';
import { unreadableCells } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import { freeName } from '../values/free-name.ts';
import { DIALECT, type Dialect, type DialectName, type SqlType } from './dialect.ts';
import { TRANSLATORS } from './steps-sql.ts';
import { longName, ORDER, type Relation, sqlType, twinNames, UnsupportedInSql, watched } from './translate.ts';

/** A table that the script begins with: what a table of the job is after one of its steps. */
export interface RawTable {
  table: string;
  /** Index of the last step that Rimefield does. */
  step: number;
  /** What the script calls it. */
  name: string;
  columns: readonly { name: string; type: SqlType }[];
  /** A later step asks which typed cells are filled: unreadable ones would be lost. */
  isStrict: boolean;
  /** Why the script does not begin earlier; undefined where only the reading is before it. */
  why?: string;
}

export interface MethodSql {
  text: string;
  raw: readonly RawTable[];
  /** Steps of all tables that the script says. */
  said: number;
}

/** The script cannot be made. */
export class SqlRefused extends Error {
  override name = 'SqlRefused';
}

export interface SqlChoices {
  dialect: DialectName;
  /** The Parquet file of a raw table, for dialects that read files; without it a table of its name is read. */
  file?(raw: RawTable): string;
}

/**
 * The method of a table as SQL, for the columns of this run.
 * @param run whole; other tables that it reads are taken from it
 * @throws SqlRefused
 */
export function methodSql(job: Job, tableId: string, run: MethodRun, choices: SqlChoices): MethodSql {
  if (run.stop !== undefined || run.steps.length === 0)
    throw new SqlRefused('The method does not come to its end, so its columns are not known. Make it whole first.');
  const script = new Script(job, choices);
  const end = script.queriesOf(tableId, run, run.steps.length - 1);
  return script.whole(end);
}

class Script {
  private readonly dialect: Dialect;
  private readonly queries: { name: string; comment: string; sql: string }[] = [];
  private readonly raw: RawTable[] = [];
  private readonly done = new Map<string, Relation>();
  private readonly names: Set<string> = new Set();
  private said = 0;
  /** How many tables are being translated, each for the one before. */
  private depth = 0;

  constructor(
    private readonly job: Job,
    private readonly choices: SqlChoices,
  ) {
    this.dialect = DIALECT[choices.dialect];
  }

  /** Adds the queries of a table up to one of its steps. */
  queriesOf(tableId: string, run: MethodRun, last: number): Relation {
    const key = `${tableId}/${last}`;
    const known = this.done.get(key);
    if (known !== undefined) return known;
    const strict = new Set<number>();
    this.depth++;
    const { upto, why, isStrict } = this.firstSaid(run, last, strict);
    let relation = this.begin(tableId, run, upto, why, isStrict);
    for (let k = upto + 1; k <= last; k++) {
      const step = run.steps[k]!;
      if (step.step.muted) continue;
      const sql = this.say(run, k, relation, strict.has(k));
      relation = { name: this.nameOf(tableId, k), table: step.table };
      this.queries.push({ name: relation.name, comment: this.commentOf(run, k), sql });
      this.said++;
    }
    this.depth--;
    this.done.set(key, relation);
    return relation;
  }

  /** The last step that has to be done before: all behind it are said. */
  private firstSaid(
    run: MethodRun,
    last: number,
    strict: Set<number>,
  ): { upto: number; why?: string; isStrict: boolean } {
    // Other tables that read this one may ask which of its cells are filled.
    let isStrict = last < run.steps.length - 1 || this.depth > 1;
    for (let k = last; k > 0; k--) {
      if (run.steps[k]!.step.muted) continue;
      if (isStrict) strict.add(k);
      try {
        const { hasAsked } = watched(() =>
          this.say(run, k, { name: 'before', table: run.steps[k - 1]!.table }, isStrict, true),
        );
        isStrict ||= hasAsked;
      } catch (error) {
        if (!(error instanceof UnsupportedInSql)) throw error;
        return { upto: k, why: error.message, isStrict };
      }
    }
    return { upto: 0, isStrict };
  }

  private say(run: MethodRun, k: number, from: Relation, isStrict: boolean, isTrial = false): string {
    const step = run.steps[k]!;
    const sayer = TRANSLATORS[step.step.kind];
    if (sayer === undefined)
      throw new UnsupportedInSql('it looks at how the report is laid out, or SQL has no word for it');
    const other = (tableId: string): Relation => {
      const found = step.others.find((one) => one.tableId === tableId);
      if (found === undefined) throw new UnsupportedInSql('the other table is not known');
      const table = found.run.steps[found.step]!.table;
      return isTrial ? { name: 'other', table } : this.queriesOf(tableId, found.run, found.step);
    };
    return sayer({ dialect: this.dialect, from, to: step.table, run: step, isStrict, other }, step.step.params);
  }

  /** The query that a table begins with: another table, or what Rimefield has made of the report. */
  private begin(tableId: string, run: MethodRun, upto: number, why: string | undefined, isStrict: boolean): Relation {
    const first = run.steps[upto]!;
    const { table } = first;
    if (upto === 0 && first.step.kind === FROM_TABLE) {
      const [source] = first.others;
      if (source !== undefined) return { ...this.queriesOf(source.tableId, source.run, source.step), table };
    }
    if (table.fields.some((field) => field.name === ORDER))
      throw new SqlRefused(
        `A column of ${this.tableName(tableId)} is called ${ORDER}, which the order of the rows is kept in. Rename it.`,
      );
    const twins = twinNames(table.fields, this.dialect);
    if (twins !== undefined)
      throw new SqlRefused(
        `${twins} in ${this.tableName(tableId)} differ by case alone, which ${this.dialect.title} does not tell apart. Rename one of them.`,
      );
    const long = longName(table.fields, this.dialect);
    if (long !== undefined)
      throw new SqlRefused(
        `The name ${long} in ${this.tableName(tableId)} is longer than the ${this.dialect.maxNameBytes} bytes that ${this.dialect.title} keeps. Rename it.`,
      );
    const raw: RawTable = {
      table: tableId,
      step: upto,
      columns: table.fields.map((field) => ({ name: field.name, type: sqlType(field) })),
      name: this.nameOf(tableId, upto, 'raw'),
      isStrict,
      ...(why === undefined ? {} : { why }),
    };
    this.raw.push(raw);
    const { id } = this.dialect;
    const columns = [ORDER, ...table.fields.map((field) => field.name)].map((name) => `    ${id(name)}`).join(',\n');
    const path = this.fileOf(raw);
    const source = path === undefined ? id(raw.name) : this.dialect.file!(path);
    const name = this.nameOf(tableId, upto);
    this.queries.push({
      name,
      comment: `${this.tableName(tableId)} after step ${upto + 1}, as Rimefield gives it`,
      sql: `select\n${columns}\nfrom ${source}`,
    });
    return { name, table };
  }

  private tableName(tableId: string): string {
    return jobNames(this.job).table(tableId);
  }

  /** A name for a query: the table's, and the number of the step. */
  private nameOf(tableId: string, step: number, what = String(step + 1)): string {
    const plain =
      this.tableName(tableId)
        .normalize('NFKD')
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '_')
        .replace(/^_|_$/g, '')
        // With its number it stays within the 63 bytes that PostgreSQL keeps.
        .slice(0, 48) || 'table';
    const wanted = `${/^[0-9]/.test(plain) ? 't_' : ''}${plain}_${what}`;
    return freeName(wanted, this.names, (one, n) => `${one}_${n}`);
  }

  private commentOf(run: MethodRun, k: number): string {
    const { step } = run.steps[k]!;
    return `${k + 1}. ${sentenceText(stepSentence(step, jobNames(this.job)))}`;
  }

  whole({ name: last, table }: Relation): MethodSql {
    const { id, title } = this.dialect;
    const unreadable = unreadableCells(table);
    const head = [
      `The method of ${this.job.name} as SQL for ${title}, for the columns of the report that it was made on.`,
      ...this.raw.flatMap((raw) => this.rawComment(raw)),
      'Blank cells are null, and so are cells that could not be read' +
        (unreadable === 0 ? '.' : ` (${counted(unreadable, 'cell')} in that report).`),
      'A text that SQL would read otherwise than Rimefield stops the script with what stands there.',
    ];
    const queries = this.queries.map(
      ({ name, comment, sql }) => `-- ${oneLine(comment)}\n${id(name)} as (\n${indented(sql)}\n)`,
    );
    const columns = table.fields.map((field) => `    ${id(field.name)}`).join(',\n');
    const text = [
      head.map((line) => `-- ${line.replace(/[\r\n]+/g, ' ')}`).join('\n'),
      `with\n${queries.join(',\n\n')}`,
      `select\n${columns}\nfrom ${id(last)}\norder by ${id(ORDER)};\n`,
    ].join('\n\n');
    return { text, raw: this.raw, said: this.said };
  }

  private rawComment(raw: RawTable): string[] {
    const name = this.tableName(raw.table);
    const file = this.fileOf(raw);
    const place = file === undefined ? `the table ${raw.name}` : `the file ${file}`;
    const steps = raw.step === 0 ? 'the report as it is read' : `the report after steps 1 to ${raw.step + 1}`;
    const out = file ?? `${raw.name}.csv`;
    return [
      `${name} begins as ${place}: ${steps}, with the order of its rows in the column ${ORDER}. It is made by`,
      `    rimefield raw JOB --source NAME=FILE --table "${name}" --upto ${raw.step + 1}${raw.isStrict ? ' --readable' : ''} --out ${out}`,
      ...(raw.why === undefined ? [] : [`Step ${raw.step + 1} is done there because ${raw.why}.`]),
      ...(file === undefined ? this.loadComment(raw, out) : []),
    ];
  }

  /** How a database takes a raw table that it cannot read as a file. */
  private loadComment(raw: RawTable, out: string): string[] {
    const { id, types, name } = this.dialect;
    const columns = raw.columns.map((column) => `${id(column.name)} ${types[column.type]}`).join(', ');
    return [
      'and goes into a table of these columns:',
      `    create table ${id(raw.name)} (${id(ORDER)} ${types.whole}, ${columns});`,
      ...(name === 'postgres' ? [`    \\copy ${id(raw.name)} from '${out}' with (format csv, header)`] : []),
    ];
  }

  private fileOf(raw: RawTable): string | undefined {
    return this.dialect.file === undefined ? undefined : this.choices.file?.(raw);
  }
}

function oneLine(text: string): string {
  return text.replace(/\s+/g, ' ');
}

function indented(sql: string): string {
  return sql.replace(/^/gm, '    ');
}
