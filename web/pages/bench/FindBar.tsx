import Close from '@mui/icons-material/Close';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { type Found, grouped, type JobTable } from '../../../core/index.ts';
import { Choose } from '../../parts/Choose.tsx';
import { useRunQuery } from '../../stores/use-engine-query.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './panels.module.css';

const WAIT_MS = 150;
const NOTHING: { where: 'table' | 'report'; part: number; cells: readonly Found[]; total: number } = {
  where: 'table',
  part: 0,
  cells: [],
  total: 0,
};

/** Finds a text in the table or the report and goes from cell to cell; a number goes to a row. */
export function FindBar({ table, step }: { table: JobTable; step: number }) {
  const [text, setText] = useState('');
  const [where, setWhere] = useState<'table' | 'report'>('table');
  const [at, setAt] = useState(0);
  const part = useViewStore((store) => store.part);
  const { light, find } = useViewStore.getState();
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.focus(), []);
  const asked = useDeferred(text, WAIT_MS);
  const { data: found = NOTHING } = useRunQuery(
    ['find', table.id, where, where === 'table' ? step : part, asked],
    async (engine) => ({
      where,
      part,
      ...(where === 'table'
        ? await engine.tables.find(table.id, step, asked)
        : await engine.report.find(table.id, part, asked)),
    }),
    { keep: true },
  );
  useEffect(() => {
    setAt(0);
    const { cells, where, part } = found;
    if (where === 'table')
      light({ litTable: cells.map((cell) => ({ ...cell, role: 'value' as const })), litReport: [] });
    else
      light({ litReport: cells.map((cell) => ({ ...cell, part, role: 'value' as const, place: '' })), litTable: [] });
    if (cells[0] !== undefined) go(cells[0], where, part);
  }, [found, light]);
  const jump = (by: number) => {
    if (found.cells.length === 0) return;
    const next = (at + by + found.cells.length) % found.cells.length;
    setAt(next);
    go(found.cells[next]!, where, part);
  };
  const close = () => {
    find(false);
    light({ litTable: [], litReport: [] });
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'Enter') jump(event.shiftKey ? -1 : 1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const row = /^:(\d+)$/.exec(text);
  return (
    <div className={styles.find} role="search" onKeyDown={(event) => event.key === 'Escape' && close()}>
      <input
        ref={input}
        aria-label="Find"
        placeholder="Find, or :120 for row 120"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          const to = /^:(\d+)$/.exec(event.target.value);
          if (to !== null) go({ row: Math.max(0, Number(to[1]) - 1), column: 0 }, where, part);
        }}
        onKeyDown={onKey}
      />
      <Choose<'table' | 'report'>
        label="Where"
        value={where}
        choices={[
          ['table', 'in the table'],
          ['report', 'in the report'],
        ]}
        onChange={setWhere}
      />
      <span role="status">
        {row !== null
          ? `row ${grouped(Number(row[1]))}`
          : text === ''
            ? ''
            : found.total === 0
              ? 'nothing found'
              : `${grouped(at + 1)} of ${grouped(found.total)}`}
      </span>
      <button type="button" aria-label="The one before" disabled={found.cells.length === 0} onClick={() => jump(-1)}>
        ‹
      </button>
      <button type="button" aria-label="The next one" disabled={found.cells.length === 0} onClick={() => jump(1)}>
        ›
      </button>
      <button type="button" aria-label="Close find" onClick={close}>
        <Close style={{ fontSize: 15 }} />
      </button>
    </div>
  );
}

function go(cell: Found, where: 'table' | 'report', part: number): void {
  useViewStore.getState().goTo(where === 'table' ? { on: 'table', ...cell } : { on: 'report', ...cell, part });
}

/** A text as it stood when it was last left alone for a while. */
function useDeferred(text: string, waitMs: number): string {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), waitMs);
    return () => clearTimeout(timer);
  }, [text, waitMs]);
  return settled;
}
