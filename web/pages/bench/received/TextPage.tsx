import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react';
import type { JobTable } from '../../../../core/index.ts';
import { engineClient } from '../../../engine/client.ts';
import type { LineView, PartView, TextView } from '../../../engine/protocol.ts';
import { cellKey } from '../../../parts/grid/grid-types.ts';
import { useWindow } from '../../../parts/grid/use-window.ts';
import { useMethodStore } from '../../../stores/method-store.ts';
import { useTraceFromReport } from '../use-trace.ts';
import { RowRoleGutter } from './RowRoleGutter.tsx';
import { Ruler } from './Ruler.tsx';
import styles from './received.module.css';
import { TapeMenu } from './TapeMenu.tsx';
import { useLineKeys } from './use-line-keys.ts';
import { useJourneyTo, useLit } from './use-lit.ts';
import { leftPage, type Reading } from './use-reading.ts';
import { useTape } from './use-tape.ts';

const LINE_HEIGHT = 20;
const HEAD_HEIGHT = 58;
const PADDING = 8;

interface Props {
  table: JobTable;
  step: number;
  part: number;
  sheet: PartView;
  reading: Reading;
  /** Cuts that the ruler works on. */
  layout: {
    cuts: readonly number[];
    names: readonly string[];
    put(params: Layout, label: string, merge?: string): void;
  };
  profile: TextView | undefined;
  /** The line that was clicked. */
  onLine?(text: string): void;
}

interface Layout {
  cuts: number[];
  names: string[];
}

/** Lines of a text as they came, under a ruler where they are cut. */
export function TextPage({ table, step, part, sheet, reading, layout, profile, onLine }: Props) {
  const tableId = table.id;
  const run = useMethodStore((store) => store.run);
  const tape = useTape(part);
  const { cells: lit, rows: litRows } = useLit(part);
  const goTo = useJourneyTo(part);
  const trace = useTraceFromReport(tableId, step);
  const scroller = useRef<HTMLDivElement>(null);
  const advance = useAdvance();
  const fetch = useCallback(
    (from: number, to: number) => engineClient().engine.report.lines(tableId, step, part, from, to),
    [tableId, step, part],
  );
  const { row, ensure } = useWindow<LineView>(fetch, `${tableId}/${run}/${step}/${part}`);
  const ruled = leftPage(reading) === 'ruler';
  const head = ruled ? HEAD_HEIGHT : 0;
  const lines = useVirtualizer({
    count: sheet.rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => LINE_HEIGHT,
    overscan: 12,
    scrollPaddingStart: head,
  });
  const inSight = lines.getVirtualItems();
  const [first, last] = [inSight[0]?.index ?? 0, inSight.at(-1)?.index ?? -1];
  useEffect(() => {
    if (last >= first) ensure(first, last + 1);
  }, [first, last, ensure]);
  const journey = useRef<() => void>(() => undefined);
  journey.current = () => {
    if (goTo !== undefined && goTo.row >= 0 && goTo.row < sheet.rows) lines.scrollToIndex(goTo.row, { align: 'auto' });
  };
  useEffect(() => journey.current(), [goTo]);
  const { focus, setFocus, walk } = useLineKeys({
    part,
    rows: sheet.rows,
    scroller,
    tape,
    bringIntoSight: (next) => lines.scrollToIndex(next, { align: 'auto' }),
    onEnter: (at) => onLine?.(row(at)?.text ?? ''),
  });
  const wide = step > 0;
  const gutter = wide ? 78 : 58;
  const width = gutter + PADDING * 2 + Math.max(profile?.width ?? 0, (layout.cuts.at(-1) ?? 0) + 8) * advance;
  const tell = (target: EventTarget | undefined, go: boolean) => {
    const element = (target as HTMLElement | undefined)?.closest<HTMLElement>('[data-cell]');
    const [r, c] = element?.dataset['cell']?.split(':').map(Number) ?? [];
    const cell = r === undefined || c === undefined ? undefined : { part, row: r, column: c };
    trace(cell, element?.textContent?.trim() ?? '', cell === undefined ? '' : `line ${cell.row + 1}`, go);
  };
  return (
    <div
      ref={scroller}
      className={styles.text}
      onMouseOver={(event) => tell(event.target, false)}
      onFocus={() => undefined}
      onMouseLeave={() => tell(undefined, false)}
      onClick={(event) => {
        const line = (event.target as HTMLElement).closest<HTMLElement>('[data-line]');
        if (line === null) return;
        const index = Number(line.dataset['line']);
        setFocus(index);
        onLine?.(row(index)?.text ?? '');
        if (String(getSelection()) === '') tell(event.target, true);
      }}
    >
      <div style={{ width, minWidth: '100%', height: head + lines.getTotalSize(), position: 'relative' }}>
        {ruled && (
          <div className={styles.rulerPlace} style={{ paddingLeft: gutter + PADDING, height: HEAD_HEIGHT, width }}>
            <Ruler
              width={profile?.width ?? 0}
              advance={advance}
              profile={profile?.profile ?? []}
              cuts={layout.cuts}
              names={layout.names}
              onCuts={(cuts, names, label, merge) => layout.put({ cuts, names }, label, merge)}
            />
          </div>
        )}
        {ruled &&
          layout.cuts.map((cut) => (
            <i
              key={cut}
              className={styles.rule}
              style={{ left: gutter + PADDING + cut * advance, top: head, height: lines.getTotalSize() }}
            />
          ))}
        <TapeMenu table={table} step={step} place={tape.marking} onDone={tape.done} />
        <div
          role="grid"
          aria-label={`${sheet.name} as received`}
          aria-rowcount={sheet.rows}
          tabIndex={0}
          className={styles.lines}
          onKeyDown={walk}
        >
          {inSight.map((item) => {
            const line = row(item.index);
            return (
              <div
                key={item.key}
                role="row"
                aria-rowindex={item.index + 1}
                data-line={item.index}
                className={`${styles.line} ${line?.fits === false ? styles.misfit : ''} ${focus === item.index ? styles.at : ''} ${litRows.has(item.index) ? styles.following : ''}`}
                data-mark={line?.mark}
                style={{ top: head + item.start, height: LINE_HEIGHT, width }}
              >
                <span className={styles.lineGutter} style={{ width: gutter }} role="rowheader">
                  <RowRoleGutter row={item.index} mark={line?.mark} wide={wide} hands={tape.hands} />
                </span>
                <span role="gridcell" className={styles.lineText} style={{ left: gutter + PADDING }}>
                  {line !== undefined && <Stretches line={line} row={item.index} lit={lit} shaded={!ruled} />}
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

/** The text of a line, with the stretches that are cells marked off. */
function Stretches({
  line,
  row,
  lit,
  shaded,
}: {
  line: LineView;
  row: number;
  lit: ReadonlySet<string>;
  shaded: boolean;
}) {
  const pieces: ReactNode[] = [];
  let at = 0;
  for (const span of line.spans) {
    if (span.from > at) pieces.push(line.text.slice(at, span.from));
    const key = cellKey(row, span.column);
    const piece = shaded && line.fits && line.spans.length > 1;
    pieces.push(
      <span
        key={`${span.column}:${span.from}`}
        data-cell={key}
        className={`${piece ? styles.piece : ''} ${lit.has(key) ? styles.litPiece : ''}`}
      >
        {line.text.slice(span.from, span.to)}
      </span>,
    );
    at = span.to;
  }
  return (
    <>
      {pieces}
      {line.text.slice(at)}
    </>
  );
}

/** Pixels from one character to the next in the font of text pages. */
function useAdvance(): number {
  const [advance, setAdvance] = useState(7.2);
  useEffect(() => {
    const measure = () => {
      const context = document.createElement('canvas').getContext('2d');
      if (context === null) return;
      context.font = '12px "Spline Sans Mono Variable", monospace';
      setAdvance(context.measureText('0'.repeat(100)).width / 100);
    };
    measure();
    void document.fonts.load('12px "Spline Sans Mono Variable"').then(measure);
  }, []);
  return advance;
}
