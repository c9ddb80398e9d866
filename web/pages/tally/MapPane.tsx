import { type KeyboardEvent, type PointerEvent, useCallback, useEffect, useRef, useState } from 'react';
import { columnLetters, type Fate, grouped, type Job, type JobTable, type ReportPlace } from '../../../core/index.ts';
import type { TallyView } from '../../engine/protocol.ts';
import { useSize } from '../../parts/use-size.ts';
import { keyOf, useEngineQuery } from '../../stores/use-engine-query.ts';
import styles from './tally.module.css';

/** Cells lit by an entry of the ledger. */
export interface Lighted {
  places: readonly ReportPlace[];
  total: ReportPlace;
  causes: readonly ReportPlace[];
}

interface Props {
  job: Job;
  table: JobTable;
  view: TallyView;
  part: number;
  onPart(part: number): void;
  lighted: Lighted | undefined;
  /** Cells dragged over, as row:column-row:column. */
  onDragged: ((cells: string) => void) | undefined;
  onBench(shown: object): void;
}

const COLOUR: Record<Fate['as'], string> = {
  once: '--spruce',
  more: '--spruce-more',
  name: '--plum-strip',
  label: '--spruce-strip',
  key: '--spruce-strip',
  merged: '--spruce-more',
  unreadable: '--hip',
  aside: '--aside',
  dropped: '--slate',
  unread: '--chip',
  lost: '--hip',
};
/** What a row of pixels that stands for many rows shows: the rarest kind counts most. */
const WEIGHT: Record<Fate['as'], number> = {
  lost: 9,
  unreadable: 8,
  dropped: 7,
  aside: 5,
  label: 4,
  name: 4,
  key: 3,
  more: 2,
  merged: 2,
  once: 1,
  unread: 0,
};

export function colourOf(fate: Fate): string {
  if (fate.as === 'aside' && fate.mark === 'total') return '--ochre-line';
  if (fate.as === 'aside' && (fate.mark === 'header' || fate.mark === 'repeat')) return '--plum-strip';
  return COLOUR[fate.as];
}

const GAP = 1;
const PAD = 12;
const MIN_HEIGHT = 2;
const MAX_HEIGHT = 16;

const NO_CELLS = new Uint8Array();

/** The report as a map: every filled cell in the colour of where it went. */
export function MapPane({ job, table, view, part, onPart, lighted, onDragged, onBench }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const sheet = view.parts[part];
  const size = useSize(box, { width: 360, height: 420 });
  const [top, setTop] = useState(0);
  const [zoom, setZoom] = useState<'whole' | 'rows'>('whole');
  const [cursor, setCursor] = useState<{ row: number; column: number } | undefined>();
  const [only, setOnly] = useState<number | undefined>();
  const drag = useRef<{ row: number; column: number } | undefined>(undefined);
  const { data: cells = NO_CELLS } = useEngineQuery(
    ['tally cells', table.id, part, keyOf(view)],
    (engine) => engine.tally.cells(table.id, part),
    { keep: true },
  );
  const [rows, columns] = [sheet?.rows ?? 0, sheet?.columns ?? 0];
  const fitting = (size.height - 2 * PAD) / Math.max(1, rows);
  const height = zoom === 'rows' ? Math.max(9, Math.min(MAX_HEIGHT, fitting)) : Math.min(MAX_HEIGHT, fitting);
  const width = (size.width - 2 * PAD) / Math.max(1, columns);
  const isGrouped = height < MIN_HEIGHT;
  const address = (row: number, column: number) =>
    sheet === undefined
      ? ''
      : view.parts.length > 1 || sheet.name !== ''
        ? `${sheet.name}!${columnLetters(column)}${row + 1}`
        : `${columnLetters(column)}${row + 1}`;

  const draw = useCallback(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (element === null || context === null || context === undefined || sheet === undefined) return;
    const scale = window.devicePixelRatio;
    element.width = size.width * scale;
    element.height = size.height * scale;
    context.scale(scale, scale);
    const style = getComputedStyle(element);
    const colours = view.fates.map((fate) => style.getPropertyValue(colourOf(fate)).trim());
    const weights = view.fates.map((fate) => WEIGHT[fate.as]);
    const blank = style.getPropertyValue('--hair2').trim();
    context.clearRect(0, 0, size.width, size.height);
    const lines = isGrouped ? Math.floor((size.height - 2 * PAD) / MIN_HEIGHT) : rows;
    const lineHeight = isGrouped ? MIN_HEIGHT : height;
    const from = Math.max(0, Math.floor((top - PAD) / lineHeight));
    const to = Math.min(lines, Math.ceil((top + size.height) / lineHeight));
    const gap = Math.min(GAP, lineHeight / 4);
    for (let line = from; line < to; line++) {
      const [first, last] = isGrouped
        ? [
            Math.floor((line * rows) / lines),
            Math.max(Math.floor(((line + 1) * rows) / lines), Math.floor((line * rows) / lines) + 1),
          ]
        : [line, line + 1];
      const y = PAD + line * lineHeight - top;
      for (let column = 0; column < columns; column++) {
        let shown = 0;
        for (let row = first; row < last; row++) {
          const number = cells[row * columns + column] ?? 0;
          if (number !== 0 && (shown === 0 || weights[number - 1]! > weights[shown - 1]!)) shown = number;
        }
        context.fillStyle = shown === 0 ? blank : (colours[shown - 1] ?? blank);
        context.globalAlpha = only !== undefined && shown !== only ? 0.15 : shown === 0 ? 0.7 : 1;
        context.fillRect(PAD + column * width, y, Math.max(1, width - gap), Math.max(1, lineHeight - gap));
      }
    }
    context.globalAlpha = 1;
    const outline = (place: { row: number; column: number }, colour: string, thick: number) => {
      const line = isGrouped ? Math.floor((place.row * lines) / rows) : place.row;
      context.strokeStyle = style.getPropertyValue(colour).trim();
      context.lineWidth = thick;
      context.strokeRect(
        PAD + place.column * width,
        PAD + line * lineHeight - top,
        width - gap,
        Math.max(2, lineHeight - gap),
      );
    };
    const here = (place: ReportPlace) => place.source === sheet.source && place.part === sheet.part;
    for (const place of lighted?.places ?? []) if (here(place)) outline(place, '--ink', 1.5);
    for (const place of lighted?.causes ?? []) if (here(place)) outline(place, '--hip', 2.5);
    if (lighted !== undefined && here(lighted.total)) outline(lighted.total, '--plum', 2.5);
    if (cursor !== undefined) outline(cursor, '--plum', 2);
  }, [cells, columns, cursor, isGrouped, height, lighted, only, rows, sheet, size, top, view.fates, width]);
  useEffect(draw, [draw]);
  const bring = useRef<() => void>(() => undefined);
  bring.current = () => {
    const [first] = lighted?.places ?? [];
    if (first === undefined || isGrouped) return;
    const y = PAD + first.row * height;
    if (y < top || y > top + size.height - 30) box.current?.scrollTo({ top: Math.max(0, y - size.height / 3) });
  };
  const key =
    lighted === undefined
      ? ''
      : `${lighted.total.source}/${lighted.total.part}/${lighted.total.row}/${lighted.total.column}`;
  // Only an entry that is chosen again brings its cells into sight.
  useEffect(() => {
    if (key !== '') bring.current();
  }, [key]);

  const at = (event: PointerEvent) => {
    const rect = canvas.current!.getBoundingClientRect();
    const column = Math.floor((event.clientX - rect.left - PAD) / width);
    const lines = isGrouped ? Math.floor((size.height - 2 * PAD) / MIN_HEIGHT) : rows;
    const line = Math.floor((event.clientY - rect.top + top - PAD) / (isGrouped ? MIN_HEIGHT : height));
    const row = isGrouped ? Math.floor((line * rows) / lines) : line;
    return row >= 0 && row < rows && column >= 0 && column < columns ? { row, column } : undefined;
  };
  const walk = (event: KeyboardEvent) => {
    const moves: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const move = moves[event.key];
    if (event.key === 'Enter' && cursor !== undefined) show(cursor);
    if (move === undefined) return;
    event.preventDefault();
    const now = cursor ?? { row: 0, column: -1 };
    setCursor({
      row: Math.min(rows - 1, Math.max(0, now.row + move[0])),
      column: Math.min(columns - 1, Math.max(0, now.column + move[1])),
    });
  };
  /** The next cell of a kind, from the cursor on, through all parts. */
  const next = (number: number) => {
    setOnly(number);
    const start = cursor === undefined ? 0 : cursor.row * columns + cursor.column + 1;
    const find = (from: number, to: number) => {
      for (let k = from; k < to; k++) if (cells[k] === number) return k;
      return -1;
    };
    let found = find(start, cells.length);
    if (found < 0) found = find(0, start);
    if (found < 0) return;
    const place = { row: Math.floor(found / columns), column: found % columns };
    setCursor(place);
    if (!isGrouped) box.current?.scrollTo({ top: Math.max(0, PAD + place.row * height - size.height / 2) });
  };
  const reader = job.tables.find((one) => one.steps[0]?.params['source'] === sheet?.source);
  const show = (place: { row: number; column: number }) => {
    if (sheet === undefined) return;
    onBench({ table: reader?.id ?? table.id, report: { part: sheet.part, ...place } });
  };
  const fate = cursor === undefined ? undefined : view.fates[(cells[cursor.row * columns + cursor.column] ?? 0) - 1];
  return (
    <section className={styles.pane} aria-label="Where every cell went">
      <div className={styles.cap}>
        <h2>Where every cell went</h2>
        <span className={styles.zoom} role="group" aria-label="Zoom">
          {(['whole', 'rows'] as const).map((one) => (
            <button key={one} type="button" aria-pressed={zoom === one} onClick={() => setZoom(one)}>
              {one === 'whole' ? 'whole sheet' : 'row by row'}
            </button>
          ))}
        </span>
      </div>
      {view.parts.length > 1 && (
        <div className={styles.tabs} role="tablist" aria-label="Parts of the report">
          {view.parts.map((one, k) => (
            <button
              key={`${one.source}/${one.part}`}
              type="button"
              role="tab"
              aria-selected={k === part}
              onClick={() => {
                onPart(k);
                setCursor(undefined);
              }}
            >
              {one.name}
            </button>
          ))}
        </div>
      )}
      <div ref={box} className={styles.map} onScroll={(event) => setTop(event.currentTarget.scrollTop)}>
        <canvas
          ref={canvas}
          tabIndex={0}
          role="img"
          aria-label={`Map of ${sheet?.name ?? 'the report'}: ${rows} rows, ${columns} columns. Arrow keys walk from cell to cell.`}
          style={{ width: size.width, height: size.height }}
          onKeyDown={walk}
          onPointerDown={(event) => {
            drag.current = at(event);
            setCursor(drag.current);
          }}
          onPointerMove={(event) => {
            const to = at(event);
            const start = drag.current;
            if ((event.buttons & 1) === 0 || start === undefined || to === undefined || onDragged === undefined) return;
            if (to.row === start.row && to.column === start.column) return;
            const [r1, r2] = [Math.min(start.row, to.row), Math.max(start.row, to.row)];
            const [c1, c2] = [Math.min(start.column, to.column), Math.max(start.column, to.column)];
            onDragged(`${r1}:${c1}-${r2}:${c2}`);
          }}
          onPointerUp={() => {
            drag.current = undefined;
          }}
        />
        <div style={{ height: isGrouped ? 0 : Math.max(0, rows * height + 2 * PAD - size.height) }} />
      </div>
      <p className={styles.under} role="status">
        {cursor === undefined || sheet === undefined ? (
          'Click on a cell to see where it went.'
        ) : (
          <>
            <b>{address(cursor.row, cursor.column)}</b> {fate === undefined ? 'is blank' : fate.text}
            {fate !== undefined && (
              <button type="button" onClick={() => show(cursor)}>
                Show it
              </button>
            )}
          </>
        )}
      </p>
      <ul className={styles.key}>
        <li className={styles.keyHead}>
          <span />
          <span />
          <span>figures</span>
          <span>words</span>
        </li>
        {[...view.fates.entries()]
          .sort(([, a], [, b]) => b.figures + b.words - a.figures - a.words)
          .map(([k, one]) => (
            <li key={one.text}>
              <i style={{ background: `var(${colourOf(one)})` }} />
              <button
                type="button"
                aria-pressed={only === k + 1}
                onClick={() => (only === k + 1 ? setOnly(undefined) : next(k + 1))}
              >
                {one.text}
              </button>
              <b>{grouped(one.figures)}</b>
              <b>{grouped(one.words)}</b>
            </li>
          ))}
        {view.accounted === view.filled && (
          <li>
            <i style={{ background: 'var(--hip)' }} />
            <span>not accounted for</span>
            <b>0</b>
            <b>0</b>
          </li>
        )}
      </ul>
    </section>
  );
}
