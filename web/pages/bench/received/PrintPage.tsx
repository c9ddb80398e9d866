import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import type { JobTable } from '../../../../core/index.ts';
import type { PartView, PrintView } from '../../../engine/protocol.ts';
import { cellKey } from '../../../parts/grid/grid-types.ts';
import { useRunQuery } from '../../../stores/use-engine-query.ts';
import { useTraceFromReport } from '../use-trace.ts';
import styles from './print-page.module.css';
import { Ruler } from './Ruler.tsx';
import received from './received.module.css';
import { Tape } from './Tape.tsx';
import { TapeMenu } from './TapeMenu.tsx';
import { useJourneyTo, useLit } from './use-lit.ts';
import type { Reading } from './use-reading.ts';
import { lightBetween, useTape } from './use-tape.ts';

const HEAD_HEIGHT = 58;
const TAPE_HEIGHT = 18;
/** Pixels that letters of the usual size are at least high. */
const LEGIBLE = 10;

interface Props {
  table: JobTable;
  step: number;
  part: number;
  sheet: PartView;
  reading: Reading;
}

/** A printed page as it is, under a ruler where its columns are cut. */
export function PrintPage({ table, step, part, sheet, reading }: Props) {
  const print = useRunQuery(['print', table.id, step, part], (engine) => engine.report.print(table.id, step, part), {
    keep: true,
  }).data;
  const scroller = useRef<HTMLDivElement>(null);
  const gutter = step > 0 ? 78 : 58;
  const scale = useScale(scroller, print, gutter);
  const tape = useTape(part);
  const { cells: lit, rows: litRows } = useLit(part);
  const goTo = useJourneyTo(part);
  const trace = useTraceFromReport(table.id, step);
  const [focus, setFocus] = useState(0);
  /** Where a stretch of lines begins that is stretched with Shift. */
  const from = useRef<number | undefined>(undefined);
  const row = goTo?.row ?? -1;
  useEffect(() => {
    scroller.current?.querySelector(`[data-line="${row}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [row]);
  const cuts = (reading.params['cuts'] ?? []) as number[];
  const names = (reading.params['names'] ?? []) as string[];
  const put = (next: number[], named: string[], label: string, merge?: string) => {
    const last = named.findLastIndex((name) => name !== '');
    reading.change(label, { cuts: next, names: named.slice(0, last + 1) }, merge);
  };
  const tell = (target: EventTarget | undefined, go: boolean) => {
    const element = (target as Element | undefined)?.closest<SVGElement>('[data-cell]');
    const [r, c] = element?.dataset['cell']?.split(':').map(Number) ?? [];
    const cell = r === undefined || c === undefined ? undefined : { part, row: r, column: c };
    const text = print?.lines[r ?? -1]?.words.filter((word) => word.column === c).map((word) => word.text);
    trace(cell, text?.join(' ') ?? '', cell === undefined ? '' : `${sheet.name}, line ${cell.row + 1}`, go);
  };
  const walk = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 20, PageUp: -20 }[event.key];
    if (event.target !== event.currentTarget) return;
    if (event.key === 'm') tape.markAt(scroller.current, from.current ?? focus, focus);
    if (by === undefined) return;
    event.preventDefault();
    from.current = event.shiftKey ? (from.current ?? focus) : undefined;
    const next = Math.max(0, Math.min(sheet.rows - 1, focus + by));
    setFocus(next);
    scroller.current?.querySelector(`[data-line="${next}"]`)?.scrollIntoView({ block: 'nearest' });
    if (from.current !== undefined) lightBetween(part, from.current, next);
  };
  if (print === undefined) return null;
  const width = gutter + print.width * scale;
  return (
    <div
      ref={scroller}
      className={received.text}
      onMouseOver={(event) => tell(event.target, false)}
      onFocus={() => undefined}
      onMouseLeave={() => tell(undefined, false)}
      onClick={(event) => String(getSelection()) === '' && tell(event.target, true)}
    >
      <div style={{ width, minWidth: '100%', position: 'relative' }}>
        <div className={received.rulerPlace} style={{ paddingLeft: gutter, height: HEAD_HEIGHT, width }}>
          <Ruler
            width={Math.floor(print.width) - 8}
            advance={scale}
            profile={print.profile}
            cuts={cuts}
            names={names}
            every={50}
            unit="point"
            onCuts={put}
          />
        </div>
        <TapeMenu table={table} step={step} place={tape.marking} onDone={tape.done} />
        <div
          role="grid"
          aria-label={`${sheet.name} as received`}
          aria-rowcount={sheet.rows}
          tabIndex={0}
          className={styles.page}
          style={{ height: print.height * scale }}
          onKeyDown={walk}
        >
          {print.lines.map((line, k) => (
            <Line
              key={k}
              index={k}
              line={line}
              step={step}
              scale={scale}
              gutter={gutter}
              width={print.width}
              lit={lit}
              state={`${focus === k ? received.at : ''} ${litRows.has(k) ? styles.following : ''}`}
              hands={tape.hands}
            />
          ))}
          {cuts.map((cut) => (
            <i
              key={cut}
              className={received.rule}
              style={{ left: gutter + cut * scale, top: 0, height: print.height * scale }}
            />
          ))}
        </div>
      </div>
    </div>
  );
}

interface LineProps {
  index: number;
  line: PrintView['lines'][number];
  step: number;
  scale: number;
  gutter: number;
  /** Points of the page. */
  width: number;
  lit: ReadonlySet<string>;
  state: string;
  hands: ReturnType<typeof useTape>['hands'];
}

/** A line where it stands, each of its words as wide as it is printed. */
function Line({ index, line, step, scale, gutter, width, lit, state, hands }: LineProps) {
  const [up, down] = [line.size * 1.05, line.size * 0.35];
  const columns = [...new Set(line.words.map((word) => word.column))];
  return (
    <div
      role="row"
      aria-rowindex={index + 1}
      data-line={index}
      data-mark={line.mark}
      className={`${styles.line} ${state}`}
      style={{ top: (line.baseline - up) * scale, height: (up + down) * scale }}
    >
      <span
        className={`${received.lineGutter} ${styles.gutter}`}
        style={{ width: gutter, height: TAPE_HEIGHT, marginTop: ((up + down) * scale - TAPE_HEIGHT) / 2 }}
        role="rowheader"
      >
        <Tape row={index} mark={line.mark} wide={step > 0} hands={hands} />
      </span>
      <svg
        style={{ left: gutter }}
        width={width * scale}
        height={(up + down) * scale}
        viewBox={`0 0 ${width} ${up + down}`}
      >
        {columns.map((column) => {
          const words = line.words.filter((word) => word.column === column);
          const left = Math.min(...words.map((word) => word.left));
          const right = Math.max(...words.map((word) => word.right));
          const key = cellKey(index, column);
          return (
            <g key={column} role="gridcell" data-cell={key} className={lit.has(key) ? styles.lit : undefined}>
              <rect x={left - 1.5} width={right - left + 3} y={0} height={up + down} rx={1.5} />
              {words.map((word, k) => (
                <text
                  key={k}
                  x={word.left}
                  y={up}
                  fontSize={word.size}
                  textLength={Math.max(0.1, word.right - word.left)}
                  lengthAdjust="spacingAndGlyphs"
                >
                  {word.text}
                </text>
              ))}
            </g>
          );
        })}
      </svg>
    </div>
  );
}

/** Pixels of a point: the page fits the panel, unless its letters would be too small to read. */
function useScale(scroller: React.RefObject<HTMLDivElement | null>, print: PrintView | undefined, gutter: number) {
  const [room, setRoom] = useState(0);
  const isThere = print !== undefined;
  useEffect(() => {
    const element = scroller.current;
    if (element === null || !isThere) return;
    const watch = new ResizeObserver(() => setRoom(element.clientWidth));
    watch.observe(element);
    return () => watch.disconnect();
  }, [scroller, isThere]);
  if (print === undefined) return 1;
  const sizes = print.lines.map((line) => line.size).sort((a, b) => a - b);
  const usual = sizes[Math.floor(sizes.length / 2)] ?? LEGIBLE;
  return Math.max((room - gutter) / print.width, LEGIBLE / usual);
}
