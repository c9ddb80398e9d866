import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { type ClipboardEvent, type KeyboardEvent, useEffect, useMemo, useRef } from 'react';
import { columnLetters, counted, grouped, type JobTable } from '../../../../core/index.ts';
import { draftClient } from '../../../engine/client.ts';
import type { DraftView, WantedTable } from '../../../engine/protocol.ts';
import { cellsOfClipboard } from '../../../parts/clipboard.ts';
import { bytesOf, pickFile, SOURCE_FILES } from '../../../parts/files.ts';
import { notifyError } from '../../../parts/report-error.ts';
import { useDraftStore } from '../../../stores/draft-store.ts';
import styles from './wanted.module.css';

/** Rows of a finished table that are in sight; the others count all the same. */
const MAX_SHOWN = 40;

/** How the table should come out: rows that are typed, pasted or read from a file, marked where the draft differs. */
export function WantedPanel({ table }: { table: JobTable }) {
  const { wanted, current, progress, none, draftToRows } = useDraftStore();
  const grid = useRef<HTMLTableElement>(null);
  useEffect(() => grid.current?.querySelector<HTMLInputElement>('tbody input')?.focus(), []);
  const likeness = current?.tableId === table.id ? current.told?.likeness : undefined;
  const marks = useMemo(() => marksOf(wanted, likeness), [wanted, likeness]);
  if (wanted?.tableId !== table.id) return null;
  const put = (next: Partial<WantedTable>) => draftToRows(table.id, spared({ ...wanted, ...next }));
  const setName = (k: number, name: string) => put({ names: wanted.names.with(k, name) });
  const setCell = (r: number, k: number, text: string) =>
    put({ rows: wanted.rows.with(r, filledRow(wanted.rows[r]!, wanted.names.length).with(k, text)) });
  /** Cells from the clipboard go in from where the cursor is; a line of names on top of a whole table is known. */
  const paste = (event: ClipboardEvent, row: number, column: number) => {
    const cells = cellsOfClipboard(event.clipboardData);
    if (cells === undefined || (cells.length === 1 && cells[0]!.length === 1)) return;
    event.preventDefault();
    const width = Math.max(...cells.map((one) => one.length)) + column;
    const names = [...filledRow(wanted.names, Math.max(width, wanted.names.length))];
    const isHead = row < 0 || (row === 0 && column === 0 && isBlankTable(wanted) && looksLikeNames(cells));
    if (isHead) for (const [k, name] of cells[0]!.entries()) names[column + k] = name;
    const body = isHead ? cells.slice(1) : cells;
    const rows = wanted.rows.map((one) => filledRow(one, names.length));
    for (const [n, line] of body.entries()) {
      const own = [...(rows[Math.max(0, row) + n] ?? filledRow([], names.length))];
      for (const [k, text] of line.entries()) own[column + k] = text;
      rows[Math.max(0, row) + n] = own;
    }
    put({ names, rows });
  };
  const read = async () => {
    const file = await pickFile(SOURCE_FILES);
    if (file === undefined) return;
    try {
      const bytes = await bytesOf(file);
      const found = await draftClient().engine.drafts.readWanted({ name: file.name, bytes });
      if (found === undefined) throw new Error(`${file.name} holds no table.`);
      draftToRows(table.id, found);
    } catch (error) {
      notifyError(error);
    }
  };
  const walk = (event: KeyboardEvent<HTMLInputElement>, row: number, column: number) => {
    event.stopPropagation();
    const by = event.key === 'ArrowDown' || event.key === 'Enter' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (event.key === 'Escape') draftToRows(table.id, undefined);
    else if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) useDraftStore.getState().keep();
    else if (by !== 0) grid.current?.querySelector<HTMLInputElement>(`[data-wanted="${row + by}:${column}"]`)?.focus();
    else return;
    event.preventDefault();
  };
  const shown = wanted.rows.slice(0, MAX_SHOWN);
  return (
    <section className={styles.panel} aria-label="Show the row you want">
      <div className={styles.head}>
        <b>As it should look</b>
        <span role="status" className={styles.status}>
          {progress !== undefined
            ? 'Searching for steps …'
            : (likenessText(likeness) ?? none ?? 'Type or paste one or more rows')}
        </span>
        <label className={styles.whole}>
          <input
            type="checkbox"
            checked={wanted.whole}
            onChange={(event) => put({ whole: event.currentTarget.checked })}
          />
          these are all
        </label>
        <Button onClick={() => void read()}>From a file</Button>
        <IconButton size="small" aria-label="Close the rows" onClick={() => draftToRows(table.id, undefined)}>
          <Close style={{ fontSize: 14 }} />
        </IconButton>
      </div>
      <div className={styles.scroll}>
        <table ref={grid}>
          <thead>
            <tr>
              {wanted.names.map((name, k) => (
                // Columns are known by their place: a name may be anything while it is typed.
                <th key={k}>
                  <input
                    data-wanted={`-1:${k}`}
                    aria-label={`Name of wanted column ${k + 1}`}
                    placeholder="any name"
                    value={name}
                    onChange={(event) => setName(k, event.target.value)}
                    onPaste={(event) => paste(event, -1, k)}
                    onKeyDown={(event) => walk(event, -1, k)}
                  />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((row, r) => (
              <tr key={r} className={marks.missing.has(r) ? styles.missing : undefined}>
                {wanted.names.map((_, k) => {
                  const got = marks.cells.get(`${r}:${k}`);
                  return (
                    <td key={k} className={got === undefined ? undefined : styles.differs}>
                      <input
                        data-wanted={`${r}:${k}`}
                        aria-label={`${wanted.names[k] || `Column ${k + 1}`}, wanted row ${r + 1}${got === undefined ? '' : `, ${got}`}`}
                        title={got}
                        value={row[k] ?? ''}
                        onChange={(event) => setCell(r, k, event.target.value)}
                        onPaste={(event) => paste(event, r, k)}
                        onKeyDown={(event) => walk(event, r, k)}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
        {wanted.rows.length > MAX_SHOWN && (
          <p className={styles.more}>and {grouped(wanted.rows.length - MAX_SHOWN)} rows more</p>
        )}
      </div>
    </section>
  );
}

const filledRow = (row: readonly string[], width: number): string[] =>
  Array.from({ length: Math.max(width, row.length) }, (_, k) => row[k] ?? '');

const isBlankTable = ({ rows }: WantedTable) => rows.every((row) => row.every((cell) => cell === ''));

/** Words without figures over lines of which some have figures. */
function looksLikeNames([first = [], ...rest]: readonly (readonly string[])[]): boolean {
  return (
    rest.length > 0 && !first.some((cell) => /\d/.test(cell)) && rest.some((row) => row.some((cell) => /\d/.test(cell)))
  );
}

/** One row and one column to spare, to be typed into. */
function spared({ names, rows, whole }: WantedTable): WantedTable {
  const width = names.length;
  const isUsed = (k: number) => names[k] !== '' || rows.some((row) => (row[k] ?? '') !== '');
  const wide = width === 0 || isUsed(width - 1) ? [...names, ''] : names;
  const last = rows.at(-1);
  const long = last === undefined || last.some((cell) => cell !== '') ? [...rows, filledRow([], wide.length)] : rows;
  return { names: wide, rows: long, whole };
}

/** What is said of cells that differ, by row and column in sight. */
function marksOf(wanted: WantedTable | undefined, likeness: DraftView['likeness']) {
  const cells = new Map<string, string>();
  const missing = new Set<number>();
  if (wanted === undefined || likeness === undefined) return { cells, missing };
  // Rows without a cell are no rows to the draft.
  const rows = wanted.rows.flatMap((row, r) => (row.some((cell) => cell.trim() !== '') ? [r] : []));
  for (const { row, column, got } of likeness.gaps) {
    const r = rows[row];
    const k = wanted.names.findIndex(
      (name, n) => name.trim() === column || (name.trim() === '' && columnLetters(n) === column),
    );
    if (r === undefined) continue;
    cells.set(
      `${r}:${Math.max(0, k)}`,
      got === undefined ? 'nowhere in the table' : `the table has ${got === '' ? 'a blank' : got}`,
    );
    if (got === undefined && k <= 0) missing.add(r);
  }
  return { cells, missing };
}

function likenessText(likeness: DraftView['likeness']): string | undefined {
  if (likeness === undefined) return undefined;
  if (likeness.share === 1) return 'All rows reproduced';
  const more = [
    ...(likeness.missing > 0 ? [`${counted(likeness.missing, 'row')} not found`] : []),
    ...(likeness.extra > 0 ? [`${counted(likeness.extra, 'row')} more than these`] : []),
  ];
  return [`${Math.floor(likeness.share * 100)}% of cells match`, ...more].join(', ');
}
