/** Rules that a table must meet each time its method runs. */
import { z } from 'zod';
import { markedIn } from '../kinds/param-marks.ts';
import { schemasOf } from '../kinds/schemas-of.ts';
import { type Phrase, phrasesText } from '../kinds/sentence.ts';
import { identifyingColumns } from '../rows/identifying.ts';
import type { Table } from '../table/table.ts';
import { between } from './between.ts';
import type { CheckBase, CheckContext, CheckFound, CheckKind, OfferContext } from './check-kind.ts';
import { filled } from './filled.ts';
import { key } from './key.ts';
import { lastRun } from './last-run.ts';
import { matches } from './matches.ts';
import { measure } from './measure.ts';
import { oneOf } from './one-of.ts';
import { periods } from './periods.ts';
import { rows } from './rows.ts';
import { totals } from './totals.ts';

export type { CheckContext } from './check-kind.ts';

/** All kinds of check, in the order in which they are offered. */
const KINDS = [totals, key, filled, oneOf, matches, between, periods, measure, rows, lastRun] as const;

export const Check = z.discriminatedUnion('kind', schemasOf(KINDS));
export type Check = z.infer<typeof Check>;

/** A check that is not kept yet. */
export type NewCheck = Check extends infer C ? (C extends Check ? Omit<C, 'id'> : never) : never;

export interface CheckResult extends CheckFound {
  id: string;
  level: 'warn' | 'stop';
  /** The check as a sentence. */
  text: string;
}

/** A kind whose checks are checked by its own schema before they reach it. */
type AnyCheckKind = CheckKind<CheckBase> & { schema: z.ZodObject };

const KIND_OF: ReadonlyMap<string, AnyCheckKind> = new Map(
  KINDS.map((kind) => [kind.schema.shape.kind.value, kind as unknown as AnyCheckKind]),
);

function kindOf(check: { kind: string }): AnyCheckKind {
  return KIND_OF.get(check.kind)!;
}

export function runChecks(table: Table, checks: readonly Check[], context: CheckContext): CheckResult[] {
  const names = new Set(table.fields.map((field) => field.name));
  return checks.map((check) => {
    const kind = kindOf(check);
    const base = { id: check.id, level: check.level, text: checkText(check) };
    const missing = markedIn(kind.schema, check).flatMap(({ stands, text }) =>
      stands === 'column' && !names.has(text) ? [text] : [],
    );
    if (missing.length > 0) return { ...base, ok: false, found: `there is no column ${missing.join(', ')}`, rows: [] };
    return { ...base, ...kind.run(table, check, context) };
  });
}

export function checkSentence(check: Check | NewCheck): Phrase[] {
  return kindOf(check).sentence(check as Check);
}

/** The check in words. */
export function checkText(check: Check | NewCheck): string {
  return phrasesText(checkSentence(check));
}

/** Checks that hold now and would be worth keeping. */
export function offeredChecks(
  table: Table,
  context: CheckContext,
  known: readonly Check[],
): { check: NewCheck; text: string }[] {
  const texts = new Set(known.map(checkText));
  let identifying: { columns: readonly string[] | undefined } | undefined;
  const asked: OfferContext = {
    ...context,
    identifying() {
      identifying ??= { columns: identifyingColumns(table) };
      return identifying.columns;
    },
  };
  return [...KIND_OF].flatMap(([kind, { offers }]) =>
    (offers?.(table, asked) ?? [])
      .map((params) => ({ kind, level: 'warn', ...params }) as NewCheck)
      .map((check) => ({ check, text: checkText(check) }))
      .filter(({ text }) => !texts.has(text)),
  );
}

/** Checks that can be added though nothing offers them, for a column that they begin with. */
export function checksToFillIn(column: string): { title: string; check: NewCheck }[] {
  return [...KIND_OF].flatMap(([kind, { toFillIn }]) =>
    toFillIn === undefined
      ? []
      : [{ title: toFillIn.title, check: { kind, level: 'warn', ...toFillIn.start(column) } as NewCheck }],
  );
}
