/** A method for where the data are: as a SQL script, and the table that the script begins with. */
import {
  counted,
  countUnreadable,
  DIALECTS,
  type DialectName,
  type ExportFormat,
  type Job,
  type JobTable,
  type MethodRun,
  type MethodSql,
  methodSql,
  rawFile,
} from '../core/index.ts';
import { Trouble } from './command-files.ts';

/** @throws Trouble */
export function dialectOf(given: string | undefined): DialectName {
  const found = DIALECTS.find((one) => one === (given ?? 'duckdb'));
  if (found === undefined) throw new Trouble(`There is no dialect ${given}. The dialects are ${DIALECTS.join(', ')}.`);
  return found;
}

/** A method as SQL; raw tables are Parquet files beside the script where the dialect reads them. @throws SqlRefused */
export function sqlScript(ran: { job: Job; table: JobTable; run: MethodRun }, dialect: DialectName): MethodSql {
  return methodSql(ran.job, ran.table.id, ran.run, { dialect, file: (raw) => `${raw.name}.parquet` });
}

/** Which step a number from 1 stands for. @throws Trouble */
export function stepIndex(table: JobTable, given: string | undefined): number {
  const step = Number(given);
  if (given === undefined || !Number.isInteger(step) || step < 1 || step > table.steps.length)
    throw new Trouble(
      `Say with --upto after which step of ${table.name} the table is wanted: a number from 1 to ${table.steps.length}${given === undefined ? '' : `, not ${given}`}.`,
    );
  return step - 1;
}

/** The table after the last step of a run, as a script begins with it. @throws Trouble */
export function rawBytes(name: string, run: MethodRun, as: ExportFormat, readable = false): Promise<Uint8Array> {
  if (as !== 'parquet' && as !== 'csv')
    throw new Trouble(
      `A raw table is written as parquet or csv, and not as ${as}. Say so with the ending of --out, or --as.`,
    );
  const { table } = run.steps.at(-1)!;
  const bad = readable ? table.fields.find(({ column }) => countUnreadable(column) > 0) : undefined;
  if (bad !== undefined)
    throw new Trouble(
      `${counted(countUnreadable(bad.column), 'cell')} of ${bad.name} could not be read, which the script would take for blank. Correct them, or run the method with rimefield run.`,
    );
  return rawFile(name, table, as);
}
