/** One input read to its end: the reading, every cell of its table, a guessed header, and what was said. */
import { createHash } from 'node:crypto';
import {
  CATALOGUE,
  type Context,
  cellText,
  countedColumn,
  guessReading,
  JobFileError,
  makeTable,
  openSource,
  READINGS,
  ReadFailure,
  readJobFile,
  StepFailure,
  type Table,
  textColumn,
  tryFormula,
} from '../core/index.ts';
import { unwrapped } from '../core/read/unwrap.ts';
import { Pattern } from '../core/values/pattern.ts';
import { MAX_TOLD } from '../core/values/text.ts';
import { type Input, inputOf } from './inputs.ts';

export interface Outcome {
  /** table: read. refused: an error of ours says why. defect: any other error. silent: a table that differs from that of the undamaged bytes. */
  as: 'table' | 'refused' | 'defect' | 'silent';
  text: string;
}

const CELLS_LOOKED_AT = 200_000;
const quiet: Context = {
  name: 'fuzz',
  progress: () => undefined,
  other: () => {
    throw new StepFailure('There is no other table.');
  },
};

const OURS = [ReadFailure, StepFailure, JobFileError];

const LITTLE = makeTable({
  Port: textColumn(['Hask', null, 'a'.repeat(40)]),
  Foot: countedColumn('whole', [12, null, -3]),
  Cars: countedColumn('number', [0.5, null, 1e300]),
});
/** Texts that make patterns try again and again. */
const TEMPTING = ['a'.repeat(300), `${'ab'.repeat(200)}!`, ' '.repeat(300), `${'1'.repeat(200)}x`, ''];

/** What is written by hand or comes with a job, and is no file of a report. */
const TEXTS: Readonly<Record<string, (text: string) => void>> = {
  expression: (text) => {
    const { trouble } = tryFormula(LITTLE, text);
    if (trouble !== undefined) throw new StepFailure(trouble.message);
  },
  regex: (text) => {
    const pattern = new Pattern(text, false, (message) => new StepFailure(message));
    for (const tempting of TEMPTING) {
      pattern.test(tempting);
      pattern.exec(tempting);
    }
  },
  'job file': (text) => {
    readJobFile(text);
  },
};

/** The table of a file, by the reading that is asked for or guessed. */
async function tableOf(name: string, bytes: Uint8Array, asked: string | undefined): Promise<Table> {
  await openSource(bytes, name);
  const source = unwrapped({ name, bytes });
  if (asked === undefined) {
    const { kind, params } = guessReading('s', source);
    return READINGS.get(kind)!.read(source, params, quiet).table;
  }
  const kind = READINGS.get(asked)!;
  return kind.read(source, kind.start('s', source), quiet).table;
}

function digestOf(table: Table): string {
  const hash = createHash('sha256');
  let left = CELLS_LOOKED_AT;
  for (const { name, column } of table.fields) {
    hash.update(`\0${name}\0`);
    for (let row = 0; row < table.rows && left > 0; row++, left--) hash.update(`${cellText(column, row)}\0`);
  }
  return hash.digest('hex');
}

export async function readOne(reader: string, number: number): Promise<Outcome> {
  const input = inputOf(reader, number);
  let found: string;
  try {
    const own = TEXTS[reader];
    if (own !== undefined) {
      own(new TextDecoder().decode(input.bytes));
      return { as: 'table', text: '' };
    }
    const table = await tableOf(input.name, input.bytes, input.kind);
    found = digestOf(table);
    CATALOGUE.get('header-from-rows')!.start(table, []);
  } catch (error) {
    if (OURS.some((kind) => error instanceof kind)) {
      const { message } = error as Error;
      if (message.length <= MAX_TOLD) return { as: 'refused', text: message };
      return { as: 'defect', text: `a message of ${message.length} characters: ${message.slice(0, 200)}` };
    }
    const { name, message, stack } = error as Error;
    const frames = (stack ?? '').split('\n').filter((line) => /^\s+at /.test(line));
    return { as: 'defect', text: `${name}: ${message}\n${frames.slice(0, 4).join('\n')}` };
  }
  if (input.whole !== undefined && found !== (await wholeDigest(input)))
    return { as: 'silent', text: 'a damaged file gave another table than the whole one' };
  return { as: 'table', text: found };
}

const known = new Map<string, string>();

async function wholeDigest({ name, whole }: Input): Promise<string> {
  const key = createHash('sha256').update(whole!).digest('hex');
  const digest = known.get(key) ?? digestOf(await tableOf(name, whole!, undefined));
  known.set(key, digest);
  return digest;
}
