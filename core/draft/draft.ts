import type { Proposal } from '../findings/finding.ts';
import { guessReading } from '../read/catalogue.ts';
import type { Source } from '../read/read-kind.ts';
import { type MethodRun, Runner } from '../run/run.ts';
import { type Tally, tallyOf } from '../tally/tally.ts';
import { type Candidate, searchMethods } from './search.ts';

export type Sureness = 'sure' | 'likely' | 'guess';

/** A method as it is proposed. */
export interface Draft {
  steps: readonly Proposal[];
  sureness: Sureness;
  /** Why it is as sure as it is. */
  why: string;
  run: MethodRun;
  tally: Tally;
  gives: readonly string[];
}

export interface DraftContext {
  progress(done: number): void;
}

/** Methods for a report, the best first. @throws ReadFailure */
export function draftsOf(sourceId: string, source: Source, context: DraftContext, most = 3): Draft[] {
  const { kind, params, why } = guessReading(sourceId, source);
  const runner = new Runner();
  runner.setSource(sourceId, source);
  const reading: Proposal = { kind, params, why };
  const read = runner.run([{ id: 's1', kind, params }], context);
  const raw = read.steps[0]?.table;
  if (raw === undefined) return [];
  const within = raw.fields.find((field) => field.standing === 'beside')?.name;
  const found = searchMethods(raw, within, context.progress);
  return found.slice(0, most).map((one) => finish(one, reading, runner, context));
}

function finish(one: Candidate, reading: Proposal, runner: Runner, context: DraftContext): Draft {
  const steps = [reading, ...one.steps];
  const run = runner.run(
    steps.map(({ kind, params }, k) => ({ id: `s${k + 1}`, kind, params })),
    context,
  );
  const tally = tallyOf(run, { id: 'table' });
  return { steps, sureness: 'likely', why: '', run, tally, gives: one.gives };
}
