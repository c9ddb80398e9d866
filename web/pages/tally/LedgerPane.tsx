import { useEffect, useState } from 'react';
import { columnIndex, columnLetters, grouped, type Job, type JobTable, plainFigure } from '../../../core/index.ts';
import type { PlacedEntry, TallyView } from '../../engine/protocol.ts';
import { editTable, useJobStore } from '../../stores/job-store.ts';
import styles from './tally.module.css';

interface Props {
  job: Job;
  table: JobTable;
  view: TallyView;
  onSelect(entry: PlacedEntry | undefined): void;
  /** Cells dragged over on the map for the chosen total. */
  dragged: string | undefined;
  onBench(shown: object): void;
}

const KINDS: Record<PlacedEntry['kind'], string> = {
  sum: '',
  mean: 'mean of ',
  count: 'count of ',
  min: 'least of ',
  max: 'most of ',
};

/** By how much the table misses the report's total. */
function stateText(entry: PlacedEntry): string {
  if (entry.state !== 'disagrees') return entry.state;
  const by = entry.figure - entry.table;
  return by > 0 ? `${plainFigure(by)} short` : `${plainFigure(-by)} over`;
}

/** B7:B9 of a range kept as row:column-row:column from 0. */
export function rangeText(cells: string): string {
  const [r1, c1, r2, c2] = /^(\d+):(\d+)-(\d+):(\d+)$/.exec(cells)!.slice(1).map(Number) as [
    number,
    number,
    number,
    number,
  ];
  return `${columnLetters(c1)}${r1 + 1}:${columnLetters(c2)}${r2 + 1}`;
}

/** The other way round; undefined for a text that is no range. */
export function rangeOf(text: string): string | undefined {
  const match = /^([a-z]+)(\d+)(?::([a-z]+)(\d+))?$/i.exec(text.trim());
  if (match === null) return undefined;
  const [c1, r1] = [columnIndex(match[1]!), Number(match[2]) - 1];
  const [c2, r2] = match[3] === undefined ? [c1, r1] : [columnIndex(match[3]), Number(match[4]) - 1];
  if (r1 < 0 || r2 < 0) return undefined;
  return `${Math.min(r1, r2)}:${Math.min(c1, c2)}-${Math.max(r1, r2)}:${Math.max(c1, c2)}`;
}

/** The report's own totals beside what the table adds up to. */
export function LedgerPane({ table, view, onSelect, dragged, onBench }: Props) {
  const [chosen, setChosen] = useState<string | undefined>();
  const { totals, entries } = view;
  const all = totals.agrees + totals.disagrees + totals.cannotTell + totals.leftOut;
  const entry = entries.find((one) => keyOf(one) === chosen);
  const choose = (one: PlacedEntry) => {
    const next = keyOf(one) === chosen ? undefined : one;
    setChosen(next === undefined ? undefined : keyOf(next));
    onSelect(next);
  };
  return (
    <section className={styles.pane} aria-label="The report's own totals">
      <div className={styles.cap}>
        <h2>The report's own totals</h2>
        <span>
          {all === 0 ? '' : `${grouped(all)} figures, ${grouped(totals.disagrees)} disagree`}
          {totals.cannotTell > 0 && `, ${grouped(totals.cannotTell)} cannot be checked`}
          {totals.leftOut > 0 && `, ${grouped(totals.leftOut)} differ by rows left out`}
        </span>
      </div>
      {all === 0 ? (
        <p className={styles.empty}>
          No row or column of the report is set aside as totals. On the bench, mark its total rows and columns as total:
          each of their figures is then compared with the table.
        </p>
      ) : (
        <div className={styles.ledger}>
          <table>
            <thead>
              <tr>
                <th scope="col">cell</th>
                <th scope="col">what it covers</th>
                <th scope="col" className={styles.end}>
                  report says
                </th>
                <th scope="col" className={styles.end}>
                  table adds to
                </th>
                <th scope="col">
                  <span className={styles.hidden}>State</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {entries.map((one) => (
                <tr
                  key={keyOf(one)}
                  className={`${one.state === 'disagrees' ? styles.wrong : ''} ${keyOf(one) === chosen ? styles.on : ''}`}
                >
                  <td>
                    <button type="button" aria-pressed={keyOf(one) === chosen} onClick={() => choose(one)}>
                      {one.at}
                    </button>
                  </td>
                  <td className={styles.covered} title={one.covers}>
                    {KINDS[one.kind]}
                    {one.covers}
                  </td>
                  <td className={styles.end}>{plainFigure(one.figure)}</td>
                  <td className={styles.end}>{plainFigure(one.table)}</td>
                  <td
                    className={
                      one.state === 'agrees' ? styles.good : one.state === 'disagrees' ? styles.bad : styles.look
                    }
                  >
                    {stateText(one)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {all > entries.length && (
            <p className={styles.empty}>and {grouped(all - entries.length)} more, which agree</p>
          )}
        </div>
      )}
      {entry !== undefined && (
        <Chosen key={keyOf(entry)} table={table} entry={entry} dragged={dragged} onBench={onBench} />
      )}
      {entry === undefined && entries[0]?.state === 'disagrees' && entries[0].explanation !== undefined && (
        <div className={styles.explained}>
          <p>
            <b>
              {entries[0].at} is {stateText(entries[0])}.
            </b>{' '}
            {entries[0].explanation.text}
          </p>
          <button type="button" onClick={() => choose(entries[0]!)}>
            Show the cells
          </button>
        </div>
      )}
    </section>
  );
}

const keyOf = (entry: PlacedEntry) =>
  `${entry.place.source}/${entry.place.part}!${entry.place.row}:${entry.place.column}`;

/** One total: what would explain it, and what it covers, which can be said otherwise. */
function Chosen({
  table,
  entry,
  dragged,
  onBench,
}: {
  table: JobTable;
  entry: PlacedEntry;
  dragged: string | undefined;
  onBench(shown: object): void;
}) {
  const edit = useJobStore((store) => store.edit);
  const total = `${entry.place.part}!${entry.place.row}:${entry.place.column}`;
  const known = table.coverage?.find((one) => one.total === total);
  const [text, setText] = useState(known === undefined ? '' : rangeText(known.cells));
  useEffect(() => {
    if (dragged !== undefined) setText(rangeText(dragged));
  }, [dragged]);
  const cells = rangeOf(text);
  const keep = (next: string | undefined) =>
    edit('say what a total covers', (job) =>
      editTable(job, table.id, (one) => {
        const others = (one.coverage ?? []).filter((each) => each.total !== total);
        return { ...one, coverage: next === undefined ? others : [...others, { total, cells: next }] };
      }),
    );
  /** Rows that these steps leave out are left out on purpose, or not after all. */
  const accept = (steps: readonly string[]) =>
    edit(entry.state === 'left out' ? 'do not accept rows left out' : 'accept rows left out', (job) =>
      editTable(job, table.id, (one) => {
        const others = (one.accepts ?? []).filter((id) => !steps.includes(id));
        return { ...one, accepts: entry.state === 'left out' ? others : [...others, ...steps] };
      }),
    );
  const { explanation } = entry;
  const { step } = explanation ?? {};
  return (
    <div className={styles.explained}>
      <div>
        <p>
          <b>
            {entry.at}{' '}
            {entry.state === 'agrees'
              ? 'agrees'
              : entry.state === 'disagrees'
                ? `is ${stateText(entry)}`
                : entry.state === 'left out'
                  ? 'counts rows that were left out'
                  : entry.state === 'not calculated'
                    ? 'was never calculated: the workbook stores 0 beside its formula'
                    : 'cannot be checked'}
            .
          </b>{' '}
          {explanation?.text ??
            (entry.state === 'disagrees'
              ? 'Nothing simple explains it.'
              : `It covers ${grouped(entry.cellCount)} cells.`)}
        </p>
        <form
          className={styles.covers}
          onSubmit={(event) => {
            event.preventDefault();
            if (cells !== undefined) keep(cells);
          }}
        >
          <label>
            It covers
            <input
              value={text}
              placeholder="drag over cells on the map, or B7:B9"
              aria-invalid={text !== '' && cells === undefined}
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <button type="submit" disabled={cells === undefined}>
            Keep
          </button>
          {known !== undefined && (
            <button type="button" onClick={() => keep(undefined)}>
              As worked out
            </button>
          )}
        </form>
      </div>
      <div className={styles.leads}>
        <button
          type="button"
          onClick={() =>
            onBench({ report: { part: entry.place.part, row: entry.place.row, column: entry.place.column } })
          }
        >
          Show the cell
        </button>
        {explanation?.leftOutBy !== undefined && (
          <button type="button" onClick={() => accept(explanation.leftOutBy!)}>
            {entry.state === 'left out' ? 'Do not accept' : 'Accept'}
          </button>
        )}
        {step !== undefined && (
          <button type="button" onClick={() => onBench({ table: step.table, step: step.index })}>
            Show step {step.index + 1}
          </button>
        )}
      </div>
    </div>
  );
}
