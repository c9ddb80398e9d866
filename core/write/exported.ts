import { type Job, type JobTable, jobNames } from '../document/job.ts';
import { stepSentence } from '../document/sentence-of.ts';
import { sentenceText } from '../kinds/sentence.ts';
import { type MethodRun, type StepRun, walkedSteps } from '../run/run.ts';
import { takeRows } from '../table/gather.ts';
import { columnLetters, type Table } from '../table/table.ts';

/** A table on its way out, with what is known of it. */
export interface Exported {
  name: string;
  table: Table;
  /** The steps as sentences, in order. */
  method?: readonly { sentence: string; note?: string; rows: number }[];
  /** Rows and columns that were set aside, in the order in which they went. */
  piles?: readonly { name: string; table: Table }[];
  /** Columns that tell every row apart, by the table's own check. */
  key?: readonly string[];
  /** By column, the step that brought it. */
  brought?: ReadonlyMap<string, string>;
}

/** What a run that came to its end has to export. */
export function exportedOf(job: Job, table: JobTable, run: MethodRun): Exported {
  const names = jobNames(job);
  const sentences = run.steps.map((step) => sentenceText(stepSentence(step.step, names)));
  const brought = new Map<string, string>();
  run.steps.forEach((step, k) => {
    for (const field of step.table.fields)
      if (field.nameOrigin !== 'position' && !brought.has(field.name)) brought.set(field.name, sentences[k]!);
  });
  const last = run.steps.length - 1;
  return {
    name: table.name,
    table: run.steps[last]!.table,
    method: run.steps.map((step, k) => ({ sentence: sentences[k]!, note: step.step.note, rows: step.table.rows })),
    piles: pilesOf(run),
    key: keyOf(table, run.steps[last]!.table),
    brought,
  };
}

function pilesOf(run: MethodRun): { name: string; table: Table }[] {
  const walked = walkedSteps(run, run.steps.length - 1);
  return walked.flatMap(({ run: step, index }, k) => {
    const before = walked[k - 1]?.run.table ?? partTable(step);
    return before === undefined
      ? []
      : step.aside.map((pile) => ({
          name: `${pile.name} (step ${index + 1})`,
          table:
            pile.columns === undefined
              ? takeRows(before, pile.rows)
              : { rows: before.rows, fields: pile.columns.map((column) => before.fields[column]!) },
        }));
  });
}

/** What a reading took its table out of, where it set rows of it aside. */
function partTable({ reading }: StepRun): Table | undefined {
  const part = reading?.report.parts[reading.aside[0]?.part ?? -1];
  if (part === undefined) return undefined;
  return {
    rows: part.rows,
    fields: part.columns.map((column, k) => ({ name: columnLetters(k), nameOrigin: 'position', column })),
  };
}

function keyOf({ checks }: JobTable, table: Table): readonly string[] | undefined {
  const names = new Set(table.fields.map((field) => field.name));
  return checks
    ?.flatMap((check) => (check.kind === 'key' ? [check.columns] : []))
    .find((columns) => columns.every((name) => names.has(name)));
}
