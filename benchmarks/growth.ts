/** The same work on tables of more and more rows, to see that nothing grows faster than its rows. */
import { CATALOGUE, type JobStep, type MethodRun, Runner, type Table, tallyOf } from '../core/index.ts';
import { Random } from '../demo/random.ts';
import type { Operations } from './operations.ts';

const PORTS = ['Hask', 'Ullin', 'Brannoch', 'Tarve'];
const QUARTERS = ['Q1', 'Q2', 'Q3', 'Q4'];
const QUIET = { progress: () => undefined };

/** Delimited text of 8 columns: a reference, port, route, kind and four quarters with a twentieth of blanks. */
function delimited(rows: number): Uint8Array {
  const random = new Random(17);
  const pieces: Buffer[] = [Buffer.from(`ref,port,route,kind,${QUARTERS.join(',')}\n`)];
  let lines: string[] = [];
  for (let r = 0; r < rows; r++) {
    const figures = QUARTERS.map(() => (random.next() < 0.05 ? '' : String(random.whole(0, 99_999) / 100)));
    lines.push(
      `B${String(r).padStart(8, '0')},${random.pick(PORTS)},Route ${random.whole(1, 97)},${random.pick(['foot', 'car', 'lorry'])},${figures.join(',')}\n`,
    );
    if (lines.length < 20_000 && r < rows - 1) continue;
    pieces.push(Buffer.from(lines.join('')));
    lines = [];
  }
  return new Uint8Array(Buffer.concat(pieces));
}

const named = (names: readonly string[]) => ({ by: 'names' as const, names: [...names] });

/** From the file to a sorted table: reading, header and types, then seven that analysts use daily. */
export const TEN_STEPS: readonly Omit<JobStep, 'id'>[] = [
  { kind: 'read-delimited', params: { source: 's' } },
  { kind: 'header-from-rows', params: { rows: 1 } },
  { kind: 'set-types', params: { types: [{ columns: named(QUARTERS), type: 'number' }] } },
  { kind: 'rename', params: { names: [{ from: 'ref', to: 'Reference' }] } },
  { kind: 'replace', params: { columns: named(['port']), find: 'Tarve', with: 'Tarve Roads' } },
  { kind: 'clean-text', params: { columns: named(['kind']), letters: 'upper' } },
  { kind: 'drop-rows', params: { rules: [{ test: 'equals', column: 'kind', text: 'LORRY', exact: true }] } },
  { kind: 'round', params: { columns: named(['Q1']), size: 1 } },
  { kind: 'move-columns', params: { columns: named(['kind']), to: 'first' } },
  { kind: 'sort', params: { keys: [{ column: 'route' }, { column: 'Q2', descending: true }], order: 'plain' } },
];

const withIds = (steps: readonly Omit<JobStep, 'id'>[]): JobStep[] =>
  steps.map((step, k) => ({ ...step, id: `s${k}` }));

export function growthOperations(rows: number): Operations {
  const bytes = delimited(rows);
  const fresh = () => {
    const runner = new Runner();
    runner.setSource('s', { name: 'a.csv', bytes });
    return runner;
  };
  const runOf = (runner: Runner, steps: readonly Omit<JobStep, 'id'>[]) => {
    const run = runner.run(withIds(steps), QUIET);
    if (run.stop !== undefined) throw new Error(run.stop.message);
    return run;
  };
  const table = runOf(fresh(), TEN_STEPS.slice(0, 3)).steps.at(-1)!.table;
  const step = (kind: string, params: object, input: Table, other?: Table) => {
    const found = CATALOGUE.get(kind)!;
    return found.run(input, found.params.parse(params), {
      ...QUIET,
      name: 'table',
      other: () => ({ name: 'other', table: other! }),
    }).table;
  };
  const unpivot = () =>
    step('unpivot', { columns: named(QUARTERS), parts: [{ as: 'column', name: 'quarter' }], value: 'amount' }, table);
  let long: Table | undefined;
  const counted = step('group', { by: named(['ref']), measures: [{ by: 'sum', column: 'Q1', name: 'sum' }] }, table);
  let run: MethodRun | undefined;
  return {
    reading: () => runOf(fresh(), TEN_STEPS.slice(0, 1)).steps[0]!.table.rows,
    unpivot: () => unpivot().rows,
    pivot: {
      prepare: () => {
        long ??= unpivot();
      },
      run: () => {
        const keys = named(['ref', 'port', 'route', 'kind']);
        return step('pivot', { rows: keys, names: ['quarter'], values: [{ column: 'amount' }] }, long!).rows;
      },
    },
    'group by three': () => {
      long = undefined;
      const measures = [{ by: 'sum', column: 'Q1', name: 'sum' }];
      return step('group', { by: named(['port', 'route', 'kind']), measures }, table).rows;
    },
    'sort by two': () =>
      step('sort', { keys: [{ column: 'route' }, { column: 'Q2', descending: true }], order: 'plain' }, table).rows,
    'join by a reference': () =>
      step('join', { table: 'other', keys: [{ left: 'ref', right: 'ref' }] }, table, counted).rows,
    'ten steps': () => {
      run = undefined;
      return runOf(fresh(), TEN_STEPS).steps.at(-1)!.table.rows;
    },
    'tally of the ten': {
      prepare: () => {
        run = runOf(fresh(), TEN_STEPS);
      },
      run: () => tallyOf(run!, { id: 'table' }).cells.filled,
    },
  };
}
