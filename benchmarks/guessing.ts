/** How often the guess at a file is right, over the corpus. */
import { CATALOGUE, decodeSource, guessReading, READINGS, type Table } from '../core/index.ts';
import { makeCorpus } from './corpus.ts';
import type { CorpusFile } from './corpus-file.ts';

export interface Score {
  what: string;
  right: number;
  of: number;
  missed: string[];
}

const quiet = {
  progress: () => undefined,
  name: 'table',
  other: () => ({ name: '', table: { rows: 0, fields: [] } }),
};

/** What the guess found, in the corpus's own terms. */
function guessed({ name, bytes }: CorpusFile) {
  const source = { name, bytes };
  const guess = guessReading('s', source);
  const kind = READINGS.get(guess.kind)!;
  const params = guess.params as { delimiter?: string; cuts?: number[]; runs?: boolean; comment?: string };
  const { table } = kind.read(source, kind.params.parse(guess.params), quiet);
  const header = CATALOGUE.get('header-from-rows')!.start(table, []) as {
    rows: number;
    at: { column: string; text: string } | null;
  };
  const column = table.fields.find((field) => field.name === header.at?.column)?.column;
  let row = 0;
  if (column !== undefined && column.type === 'text') {
    while (row < table.rows && column.dictionary[column.codes[row]!] !== header.at!.text) row++;
  }
  return {
    kind: guess.kind,
    delimiter: params.delimiter,
    cuts: params.cuts,
    runs: params.runs ?? false,
    comment: params.comment ?? undefined,
    pieces: table.fields.map((field) => field.name).slice(0, -1),
    types: typesOf(table, header),
    encoding: decodeSource(bytes, null, name).encoding,
    header: { row, tiers: header.rows },
  };
}

/** Types by name, as they are guessed behind the guessed header. */
function typesOf(table: Table, header: object): Record<string, string> {
  const kind = CATALOGUE.get('header-from-rows')!;
  const named = kind.run(table, kind.params.parse(header), quiet).table;
  const { types } = CATALOGUE.get('set-types')!.start(named, []) as {
    types: { type: string; columns: { names: string[] } }[];
  };
  return Object.fromEntries(types.flatMap((one) => one.columns.names.map((name) => [name, one.type])));
}

export function scoreGuesses(): Score[] {
  const scores = new Map<string, Score>();
  const count = (what: string, file: string, right: boolean) => {
    const score = scores.get(what) ?? { what, right: 0, of: 0, missed: [] };
    scores.set(what, score);
    score.of++;
    if (right) score.right++;
    else score.missed.push(file);
  };
  for (const file of makeCorpus()) {
    const { expect } = file;
    const found = guessed(file);
    if (expect.kind !== undefined) count('kind of reading', file.name, found.kind === expect.kind);
    if (expect.delimiter !== undefined) count('delimiter', file.name, found.delimiter === expect.delimiter);
    if (expect.encoding !== undefined) count('encoding', file.name, found.encoding === expect.encoding);
    if (expect.cuts !== undefined) {
      const cuts = found.cuts ?? [];
      const fit =
        cuts.length === expect.cuts.length && expect.cuts.every(([a, b], k) => cuts[k]! >= a && cuts[k]! <= b);
      count('cuts', file.name, fit);
    }
    if (expect.runs !== undefined) count('runs of the delimiter', file.name, found.runs === expect.runs);
    if (expect.comment !== undefined) count('comment sign', file.name, found.comment === expect.comment);
    if (expect.pieces !== undefined) count('pieces of lines', file.name, found.pieces.join() === expect.pieces.join());
    if (expect.types !== undefined) {
      const wrong = Object.entries(expect.types).filter(([name, type]) => found.types[name] !== type);
      count('types of columns', file.name, wrong.length === 0);
    }
    if (expect.header !== undefined)
      count('header', file.name, found.header.row === expect.header.row && found.header.tiers === expect.header.tiers);
  }
  return [...scores.values()];
}
