import {
  cellText,
  columnLetters,
  type Draft,
  draftForNext,
  draftsOf,
  grouped,
  guessReading,
  type JobStep,
  type Likeness,
  makeTable,
  type NamedFile,
  openSource,
  placeOfReason,
  ReadFailure,
  type Suggestion,
  seenIn,
  type Table,
  textColumn,
  tidyTable,
  uniqueName,
} from '../../../core/index.ts';
import type { DraftAsked, DraftView, NextDraftView, PlainStep, WantedTable } from '../protocol.ts';
import { type EngineState, QUIET } from '../state.ts';
import { behindOf } from './behind.ts';

/** A report with something for most detectors. */
const SMALL = [
  'Returns;;;;',
  ';2030;;2031;',
  'Quay;Foot;Cars;Foot;Cars',
  'North;;;;',
  'Hask;1,50;2;3,25;4',
  'Ullin;2,50;5;3,75;6',
  'Total;4,00;7;7,00;10',
  'South;;;;',
  'Tarve;1,50;2;3,25;4',
  'Skene;2,50;5;3,75;6',
  'Total;4,00;7;7,00;10',
  'Source: gates;;;;',
].join('\n');

/** Methods proposed from a report. A separate worker does this, so that the bench never waits. */
export class Drafts {
  constructor(private readonly state: EngineState) {}

  /** A draft for another report in place of a method's last one. @throws ReadFailure, Cancelled */
  async forNext(
    sourceId: string,
    file: NamedFile,
    steps: readonly JobStep[],
    turn: number,
  ): Promise<NextDraftView | undefined> {
    await openSource(file.bytes, file.name);
    const next = draftForNext(sourceId, { ...file }, steps, { progress: this.state.watch(turn) });
    if (next === undefined) return undefined;
    const { draft, ...more } = next;
    return { ...more, sureness: draft.sureness, totals: draft.totals };
  }

  /** The finished table that a file holds; undefined where it holds none. @throws ReadFailure */
  async readWanted(file: NamedFile): Promise<WantedTable | undefined> {
    await openSource(file.bytes, file.name);
    const table = tidyTable(file);
    if (table === undefined) return undefined;
    if (table.rows > MAX_WANTED)
      throw new ReadFailure(
        file.name,
        `${file.name} has ${grouped(table.rows)} rows; ${grouped(MAX_WANTED)} are enough to show.`,
      );
    const rows = Array.from({ length: table.rows }, (_, r) =>
      table.fields.map((field) => cellText(field.column, r) ?? ''),
    );
    return { names: table.fields.map((field) => field.name), rows, whole: true };
  }

  /** What is seen in the table after a step, but for what was dismissed. */
  seen(tableId: string, step: number, waved: readonly PlainStep[]): Suggestion[] {
    const run = this.state.runs.get(tableId);
    const table = run?.steps[step]?.table;
    return run === undefined || table === undefined ? [] : seenIn(table, behindOf(run, step), waved);
  }

  /** Drafts a small report, so that the next one finds the way made ready. */
  warm(): void {
    draftsOf('warm', { name: 'warm.csv', bytes: new TextEncoder().encode(SMALL) }, QUIET, { most: 1 });
  }

  /**
   * Methods for a source, the best first.
   * @param onFirst told the likeliest steps before they are proven
   * @throws ReadFailure, Cancelled when a newer draft is wanted
   */
  make(
    asked: DraftAsked,
    turn: number,
    onProgress: (done: number) => void,
    onFirst: (steps: DraftView['steps']) => void,
  ): DraftView[] {
    const { source: id, given, without, most, wanted } = asked;
    const source = this.state.runner.source(id);
    if (source === undefined) return [];
    // A reading that nobody has touched is a guess, and a draft may make a better one.
    const isGuess = given.length === 1 && isSame(given[0]!, guessReading(id, source));
    const drafts = draftsOf(
      id,
      source,
      { progress: this.state.watch(turn, onProgress), first: onFirst },
      {
        most,
        without,
        wanted: wanted === undefined ? undefined : { table: wantedTable(wanted), partial: !wanted.whole },
        ...(isGuess ? {} : { given: given.map((step) => ({ ...step, why: '' })) }),
      },
    );
    return drafts.map(draftView);
  }
}

/** Rows of a finished table that are taken in. */
const MAX_WANTED = 50_000;

/** Columns that say nothing are not wanted; those without a name have that of their place. */
function wantedTable({ names, rows }: WantedTable): Table {
  const filled = rows.filter((row) => row.some((cell) => cell.trim() !== ''));
  const used = names.map((_, k) => k).filter((k) => filled.some((row) => (row[k] ?? '').trim() !== ''));
  const taken = new Set<string>();
  return makeTable(
    Object.fromEntries(
      used.map((k) => [
        uniqueName(names[k]!.trim() === '' ? columnLetters(k) : names[k]!.trim(), taken),
        textColumn(filled.map((row) => ((row[k] ?? '').trim() === '' ? null : row[k]!.trim()))),
      ]),
    ),
  );
}

function isSame(
  a: { kind: string; params: Record<string, unknown> },
  b: { kind: string; params: { source: string } },
): boolean {
  return a.kind === b.kind && JSON.stringify(a.params) === JSON.stringify(b.params);
}

function draftView({ steps, sureness, because, why, totals, choices, likeness, run }: Draft): DraftView {
  const place = placeOfReason(because, run.steps.at(-1)!.table);
  return {
    steps,
    sureness,
    why,
    totals,
    choices,
    ...(place === undefined ? {} : { place }),
    ...(likeness === undefined ? {} : { likeness: likenessView(likeness) }),
  };
}

function likenessView({ share, extra, missing, gaps }: Likeness): DraftView['likeness'] {
  return { share, extra, missing, gaps };
}
