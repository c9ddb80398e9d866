import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import type { JobTable } from '../../../../core/index.ts';
import type { PartView, PrintLineView, PrintView } from '../../../engine/protocol.ts';
import { cellKey } from '../../../parts/grid/grid-types.ts';
import { useRunQuery } from '../../../stores/use-engine-query.ts';
import { useTraceFromReport } from '../use-trace.ts';
import styles from './print-page.module.css';
import { RowRoleGutter } from './RowRoleGutter.tsx';
import { Ruler } from './Ruler.tsx';
import shared from './received.module.css';
import { TapeMenu } from './TapeMenu.tsx';
import { useLineKeys } from './use-line-keys.ts';
import { useJourneyTo, useLit } from './use-lit.ts';
import type { Reading } from './use-reading.ts';
import { useTape } from './use-tape.ts';

type Hands = ReturnType<typeof useTape>['hands'];

const HEAD_HEIGHT = 58;
/** Pixels between two pages. */
const BETWEEN = 10;
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

/** Printed pages as they are, one below the other, under a ruler where their columns are cut. */
export function PrintPage({ table, step, part, sheet, reading }: Props) {
  const print = useRunQuery(['print', table.id, part], (engine) => engine.report.print(table.id, part), {
    keep: true,
  }).data;
  const scroller = useRef<HTMLDivElement>(null);
  const gutter = step > 0 ? 78 : 58;
  const scale = useScale(scroller, print, gutter);
  const pages = useVirtualizer({
    count: print?.pages.length ?? 0,
    getScrollElement: () => scroller.current,
    estimateSize: (k) => print!.pages[k]!.height * scale + BETWEEN,
    overscan: 1,
    scrollMargin: HEAD_HEIGHT,
    scrollPaddingStart: HEAD_HEIGHT,
  });
  useEffect(() => pages.measure(), [pages, scale]);
  const tape = useTape(part);
  const trace = useTraceFromReport(table.id, step);
  const goTo = useJourneyTo(part);
  const goToPage = goTo === undefined ? -1 : (print?.pages.findLastIndex((page) => page.first <= goTo.row) ?? -1);
  const journey = useRef<() => void>(() => undefined);
  journey.current = () => {
    const inSight = pages.getVirtualItems().some((item) => item.index === goToPage);
    if (goToPage >= 0 && !inSight) pages.scrollToIndex(goToPage, { align: 'start' });
  };
  useEffect(() => journey.current(), [goTo]);
  const { focus, walk } = useLineKeys({
    part,
    rows: sheet.rows,
    scroller,
    tape,
    bringIntoSight: (next) =>
      scroller.current?.querySelector(`[data-line="${next}"]`)?.scrollIntoView({ block: 'nearest' }),
  });
  const cuts = (reading.params['cuts'] ?? []) as number[];
  const names = (reading.params['names'] ?? []) as string[];
  const put = (next: number[], named: string[], label: string, merge?: string) => {
    const last = named.findLastIndex((name) => name !== '');
    reading.change(label, { cuts: next, names: named.slice(0, last + 1) }, merge);
  };
  const tell = (target: EventTarget | undefined, go: boolean) => {
    const element = (target as Element | undefined)?.closest<SVGElement>('[data-cell]');
    const [row, column] = element?.dataset['cell']?.split(':').map(Number) ?? [];
    const cell = row === undefined || column === undefined ? undefined : { part, row, column };
    const text = [...(element?.querySelectorAll('text') ?? [])].map((word) => word.textContent).join(' ');
    const page = print?.pages.findLast((one) => one.first <= (row ?? 0));
    const place =
      cell === undefined || page === undefined ? '' : `page ${page.number}, line ${cell.row - page.first + 1}`;
    trace(cell, text, place, go);
  };
  if (print === undefined) return null;
  const widest = Math.max(...print.pages.map((page) => page.width));
  const height = pages.getTotalSize();
  return (
    <div
      ref={scroller}
      className={shared.text}
      onMouseOver={(event) => tell(event.target, false)}
      onFocus={() => undefined}
      onMouseLeave={() => tell(undefined, false)}
      onClick={(event) => String(getSelection()) === '' && tell(event.target, true)}
    >
      <div style={{ width: gutter + widest * scale, minWidth: '100%', position: 'relative' }}>
        <div
          className={shared.rulerPlace}
          style={{ paddingLeft: gutter, height: HEAD_HEIGHT, width: gutter + widest * scale }}
        >
          <Ruler
            width={Math.floor(widest) - 8}
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
          className={styles.pages}
          style={{ height }}
          onKeyDown={walk}
        >
          <div className={styles.strip} style={{ width: gutter, height }} />
          {pages.getVirtualItems().map((item) => (
            <OnePage
              key={item.key}
              tableId={table.id}
              step={step}
              part={part}
              index={item.index}
              print={print}
              scale={scale}
              gutter={gutter}
              top={item.start - HEAD_HEIGHT}
              focus={focus}
              goTo={item.index === goToPage ? goTo : undefined}
              hands={tape.hands}
            />
          ))}
          {cuts.map((cut) => (
            <i key={cut} className={shared.rule} style={{ left: gutter + cut * scale, top: 0, height }} />
          ))}
        </div>
      </div>
    </div>
  );
}

interface PageProps {
  tableId: string;
  step: number;
  part: number;
  /** Among the pages that are read. */
  index: number;
  print: PrintView;
  scale: number;
  gutter: number;
  top: number;
  /** The row that keys are at. */
  focus: number;
  /** A cell on it that is gone to. */
  goTo: { row: number; column: number } | undefined;
  hands: Hands;
}

function OnePage({ tableId, step, part, index, print, scale, gutter, top, focus, goTo, hands }: PageProps) {
  const lines = useRunQuery(
    ['printed', tableId, step, part, index],
    (engine) => engine.report.printedLines(tableId, step, part, index),
    { keep: true },
  ).data;
  const { cells: lit, rows: litRows } = useLit(part);
  const { width, height, first, number } = print.pages[index]!;
  const sheet = useRef<HTMLDivElement>(null);
  const isThere = lines !== undefined;
  useEffect(() => {
    if (goTo === undefined || !isThere) return;
    const cell = sheet.current?.querySelector(`[data-cell="${cellKey(goTo.row, goTo.column)}"]`);
    const line = sheet.current?.querySelector(`[data-line="${goTo.row}"]`);
    (cell ?? line)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [goTo, isThere]);
  return (
    <div ref={sheet} className={styles.page} style={{ top, height: height * scale, width: gutter + width * scale }}>
      <span className={styles.number} style={{ left: gutter + 6 }}>
        page {number}
      </span>
      {(lines ?? []).map((line, k) => (
        <Line
          key={k}
          row={first + k}
          line={line}
          room={(lines![k + 1]?.baseline ?? height) - line.baseline}
          step={step}
          scale={scale}
          gutter={gutter}
          width={width}
          lit={lit}
          state={`${focus === first + k ? shared.at : ''} ${litRows.has(first + k) ? styles.following : ''}`}
          hands={hands}
        />
      ))}
    </div>
  );
}

interface LineProps {
  row: number;
  line: PrintLineView;
  /** Points to the next line. */
  room: number;
  step: number;
  scale: number;
  gutter: number;
  /** Points of the page. */
  width: number;
  lit: ReadonlySet<string>;
  state: string;
  hands: Hands;
}

/** A line where it stands, each of its words as wide as it is printed. */
function Line({ row, line, room, step, scale, gutter, width, lit, state, hands }: LineProps) {
  const [up, down] = [line.size * 1.05, line.size * 0.35];
  const tape = Math.min(TAPE_HEIGHT, room * scale);
  const columns = [...new Set(line.words.map((word) => word.column))];
  return (
    <div
      role="row"
      aria-rowindex={row + 1}
      data-line={row}
      data-mark={line.mark}
      className={`${styles.line} ${state}`}
      style={{ top: (line.baseline - up) * scale, height: (up + down) * scale }}
    >
      <span
        className={`${shared.lineGutter} ${styles.gutter}`}
        style={{ width: gutter, height: tape, lineHeight: `${tape}px`, marginTop: ((up + down) * scale - tape) / 2 }}
        role="rowheader"
      >
        <RowRoleGutter row={row} mark={line.mark} wide={step > 0} hands={hands} />
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
          const key = cellKey(row, column);
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
  return Math.max((room - gutter) / Math.max(...print.pages.map((page) => page.width)), LEGIBLE / print.size);
}
