/** rimefield draft: the method proposed from one or several reports. */

import { basename } from 'node:path';
import {
  columnsOf,
  counted,
  type Draft,
  draftsOf,
  type Exported,
  effectOfPiles,
  exportStacked,
  few,
  grouped,
  type Job,
  jobNames,
  jobOfDraft,
  judge,
  type NamedFile,
  type OtherReport,
  openSource,
  Runner,
  released,
  releaseTable,
  runEach,
  sentenceText,
  stepHeadline,
  stepSentence,
  type Table,
  tidyTable,
  writeJobFile,
} from '../core/index.ts';
import { filesAt, type Io, isFolder, numbered, readBytes, specOf, Trouble, write, writeJson } from './command-files.ts';
import { sha256Of } from './sha256.ts';

export interface DraftOptions {
  files: readonly string[];
  out: string | undefined;
  table: string | undefined;
  like: string | undefined;
  /** The finished table has all of its rows. */
  whole: boolean;
  drafts: string | undefined;
  /** One JSON document in place of the sentences. */
  json: boolean;
  io: Io;
  progress(text: string): void;
}

/** 0 sure, 1 likely or a guess, 2 nothing to read. */
export async function draftReports(asked: DraftOptions): Promise<0 | 1 | 2> {
  if (!asked.json) return reported(asked);
  const records: object[] = [];
  const code = await reported({ ...asked, record: (one) => records.push(one) });
  writeJson('-', { rimefield: 'drafts', version: 1, drafts: records }, asked.io);
  return code;
}

interface Reporting extends DraftOptions {
  /** Takes what is known of a draft, which then is not put into sentences. */
  record?(draft: object): void;
}

async function reported(options: Reporting): Promise<0 | 1 | 2> {
  const files = options.files.flatMap((path) =>
    isFolder(path) || /[*?]/.test(basename(path))
      ? filesAt(path, options.io)
      : [{ name: basename(path), bytes: readBytes(path, options.io) }],
  );
  if (files.length === 0) throw new Trouble('Name at least one report.');
  const most = options.drafts === undefined ? 1 : Number(options.drafts);
  if (!Number.isInteger(most) || most < 1 || most > 9) throw new Trouble('--drafts takes a number from 1 to 9.');
  if (options.whole && options.like === undefined)
    throw new Trouble('--whole goes with --like TABLE: it says that TABLE has all of its rows.');
  if (files.length === 1) return draftOne(files[0]!, most, options);
  if (most > 1) throw new Trouble('With several reports, leave out --drafts.');
  return options.like === undefined ? draftMany(files, options) : draftTogether(files, options);
}

async function draftsFor(
  file: NamedFile,
  most: number,
  { like, whole, io, progress }: DraftOptions,
  others: readonly OtherReport[] = [],
  sourceId = 'report',
): Promise<Draft[]> {
  await openSource(file.bytes, file.name);
  const wanted = like === undefined ? undefined : { table: tableAt(like, io), partial: !whole, others };
  const drafts = draftsOf(
    sourceId,
    file,
    { progress: (done) => progress(`${Math.round(done * 100)}%`) },
    { most, wanted },
  );
  progress('');
  return drafts;
}

/** A finished table of several unlike reports: of one its rows, of the others columns. */
async function draftTogether(files: readonly NamedFile[], options: Reporting): Promise<0 | 1 | 2> {
  const reports: OtherReport[] = [];
  for (const [k, file] of files.entries()) {
    const sourceId = `report-${k + 1}`;
    const [draft] = await draftsFor(file, 1, { ...options, like: undefined }, [], sourceId);
    if (draft === undefined) throw new Trouble(`${file.name}: no table was found in it.`);
    reports.push({ id: `table-${k + 1}`, sourceId, name: file.name, source: file, draft });
  }
  let best: { draft: Draft; file: NamedFile; others: readonly OtherReport[] } | undefined;
  for (const [k, file] of files.entries()) {
    const others = reports.filter((_, n) => n !== k);
    const [draft] = await draftsFor(file, 1, options, others);
    const share = draft?.likeness?.share ?? 0;
    if (draft !== undefined && (best === undefined || share > best.draft.likeness!.share))
      best = { draft, file, others };
    if (share === 1) break;
  }
  if (best === undefined) throw new Trouble('No table was found in the reports.');
  return written([best.draft], best.file, best.others, options);
}

async function draftOne(file: NamedFile, most: number, options: Reporting): Promise<0 | 1 | 2> {
  const drafts = await draftsFor(file, most, options);
  if (drafts.length === 0) {
    options.io.error(`rimefield: ${file.name}: no table was found in it.\n`);
    return 2;
  }
  return written(drafts, file, [], options);
}

/** Says the drafts of a report, and writes what was asked for. */
async function written(
  drafts: readonly Draft[],
  file: NamedFile,
  others: readonly OtherReport[],
  options: Reporting,
): Promise<0 | 1> {
  const jobs = drafts.map((draft) => jobOf(draft, file, others));
  for (const [k, draft] of drafts.entries()) {
    const names = [file.name, ...others.map(({ name }) => name)];
    if (options.record === undefined) tell(draft, jobs[k]!, k, drafts, options);
    else options.record(draftRecord(draft, jobs[k]!, names, writtenTo(options, k)));
    if (options.out !== undefined)
      write(numbered(options.out, k), new TextEncoder().encode(writeJobFile(jobs[k]!)), options.io);
    if (options.table !== undefined) await writeTable(draft, jobs[k]!, numbered(options.table, k), options.io);
  }
  return drafts[0]!.sureness === 'sure' ? 0 : 1;
}

/** One method for all files that it fits; those that need another one are reported. */
async function draftMany(files: readonly NamedFile[], options: Reporting): Promise<0 | 1 | 2> {
  let left = [...files];
  let worst: 0 | 1 | 2 = 0;
  let k = 0;
  while (left.length > 0) {
    const [first] = left;
    const [draft] = await draftsFor(first!, 1, options);
    if (draft === undefined) {
      options.io.error(`rimefield: ${first!.name}: no table was found in it.\n`);
      worst = 2;
      left = left.slice(1);
      continue;
    }
    const job = jobOf(draft, first!);
    const table = job.tables[0]!;
    const fitting: { name: string; exported: Exported }[] = [];
    const others: NamedFile[] = [];
    let n = 0;
    for await (const outcome of runEach(new Runner(0), { job, table, source: 'report' }, left, {
      progress: () => undefined,
    })) {
      const file = left[n++]!;
      // What the method leaves unread, or unlike its totals, wants another.
      const { ledger, cells } = outcome.as === 'failed' ? { ledger: undefined, cells: undefined } : outcome.verdict;
      const fits =
        outcome.as !== 'failed' &&
        ledger!.disagrees <= ledger!.agrees * 0.1 &&
        cells!.accounted === cells!.filled &&
        outcome.run.steps.at(-1)!.table.rows > 0;
      if (fits || file === first) {
        if (outcome.as !== 'failed')
          fitting.push({
            name: file.name,
            exported: released(job, { table, run: outcome.run, verdict: outcome.verdict }),
          });
      } else others.push(file);
    }
    const names = fitting.map(({ name }) => name);
    if (options.record === undefined) {
      const fit = `${counted(names.length, 'report')} by one method: ${few(names)}\n\n`;
      options.io.output(new TextEncoder().encode(fit));
      tell(draft, job, 0, [draft], options);
    } else options.record(draftRecord(draft, job, names, writtenTo(options, k)));
    if (draft.sureness !== 'sure' && worst === 0) worst = 1;
    if (options.out !== undefined)
      write(numbered(options.out, k), new TextEncoder().encode(writeJobFile(job)), options.io);
    if (options.table !== undefined) {
      const out = numbered(options.table, k);
      const spec = specOf(table, out, undefined);
      write(out, await exportStacked(table.name, fitting, spec), options.io);
    }
    if (others.length > 0)
      options.io.error(
        `rimefield: ${counted(others.length, 'report')} ${others.length === 1 ? 'wants its own method' : 'want their own methods'}: ${few(others.map((one) => one.name))}\n`,
      );
    left = others;
    k++;
  }
  return worst;
}

function jobOf(draft: Draft, file: NamedFile, others: readonly OtherReport[] = []): Job {
  const fileOf = ({ name, bytes }: { name: string; bytes: Uint8Array }) => ({
    name,
    size: bytes.length,
    sha256: sha256Of(bytes),
  });
  return jobOfDraft(
    draft,
    fileOf(file),
    'report',
    others.map((one) => ({ ...one, file: fileOf(one.source) })),
  );
}

function tell(draft: Draft, job: Job, k: number, all: readonly Draft[], { io }: DraftOptions): void {
  const { totals } = draft;
  const table = draft.run.steps.at(-1)!.table;
  const names = jobNames(job);
  const lines = [
    ...(all.length > 1 ? [`Draft ${k + 1} of ${all.length}: ${draft.gives.join(', ') || 'as it stands'}`] : []),
    ...job.tables
      .at(-1)!
      .steps.flatMap((step, n) => [
        `${String(n + 1).padStart(3)}. ${stepHeadline(step, effectOfPiles(draft.run.steps[n]?.aside ?? []), names)}`,
        `     ${sentenceText(stepSentence(step, names))}`,
        `     ${draft.steps[n]!.why}`,
        ...draft.choices.filter(({ to }) => to === n + 1).map(({ gives }) => `     or ${gives}`),
      ]),
    '',
    `${grouped(table.rows)} rows of ${counted(table.fields.length, 'column')}: ${few(table.fields.map((field) => field.name))}`,
    totals.of === 0 ? 'no totals were found' : `${grouped(totals.agree)} of ${grouped(totals.of)} totals agree`,
    ...cellLines(draft),
    `${draft.sureness === 'guess' ? 'a guess' : draft.sureness}: ${draft.why}`,
    ...likeLines(draft),
    '',
  ];
  io.output(new TextEncoder().encode(`${lines.join('\n')}\n`));
}

/** Files that are written of the k-th draft. */
function writtenTo({ out, table }: DraftOptions, k: number): string[] {
  return [out, table].flatMap((path) => (path === undefined ? [] : [numbered(path, k)]));
}

/** What is known of a draft, for programs: codes with their data, and the sentences beside them. */
function draftRecord(draft: Draft, job: Job, files: readonly string[], written: readonly string[]): object {
  const { sureness, probability, because, why, totals, tally, remarks, likeness } = draft;
  const table = draft.run.steps.at(-1)!.table;
  const names = jobNames(job);
  return {
    files,
    sureness,
    probability,
    reason: because,
    why,
    rows: table.rows,
    columns: columnsOf(table),
    totals,
    ...(tally === undefined ? {} : { cells: { filled: tally.cells.filled, accounted: tally.cells.accounted } }),
    remarks,
    steps: job.tables.at(-1)!.steps.map((step, n) => ({
      kind: step.kind,
      headline: stepHeadline(step, effectOfPiles(draft.run.steps[n]?.aside ?? []), names),
      sentence: sentenceText(stepSentence(step, names)),
      why: draft.steps[n]!.why,
      or: draft.choices.filter(({ to }) => to === n + 1).map(({ gives }) => gives),
      params: step.params,
    })),
    ...(likeness === undefined
      ? {}
      : { reproduced: likeness.share, gaps: likeness.gaps, missing: likeness.missing, extra: likeness.extra }),
    written,
  };
}

/** Where the cells went; for a large report the tally of a run says it. */
function cellLines({ tally }: Draft): string[] {
  if (tally === undefined) return ['a large report: rimefield check says where every cell went'];
  const { cells } = tally;
  return [`${grouped(cells.accounted)} of ${grouped(cells.filled)} filled cells accounted for`];
}

function likeLines({ likeness }: Draft): string[] {
  if (likeness === undefined || likeness.share === 1) return [];
  return [
    ...likeness.gaps.map(({ row, column, wanted, got }) =>
      got === undefined
        ? `  row ${row + 1} of the finished table, ${column}: '${wanted}' is not found`
        : `  row ${row + 1} of the finished table, ${column}: '${wanted}' is wanted, '${got}' is there`,
    ),
    ...(likeness.missing > 0 ? [`  ${counted(likeness.missing, 'row')} of the finished table not found`] : []),
    ...(likeness.extra > 0 ? [`  ${counted(likeness.extra, 'row')} more than the finished table has`] : []),
  ];
}

async function writeTable(draft: Draft, job: Job, out: string, io: Io): Promise<void> {
  const table = job.tables.at(-1)!;
  const verdict = judge(job, table, draft.run);
  write(out, await releaseTable(job, { table, run: draft.run, verdict }, specOf(table, out, undefined)), io);
}

/** A finished table, read by its own draft: a header and rows in any format that is read. */
function tableAt(path: string, io: Io): Table {
  const file = { name: basename(path), bytes: readBytes(path, io) };
  const table = tidyTable(file);
  if (table === undefined) throw new Trouble(`${path} holds no table.`);
  return table;
}
