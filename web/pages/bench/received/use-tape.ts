import { useCallback, useMemo, useRef, useState } from 'react';
import type { Mark } from '../../../../core/index.ts';
import { useViewStore } from '../../../stores/view-store.ts';
import type { TapePlace } from './TapeMenu.tsx';

/** What pointer and keys do on the tape. */
export interface TapeHands {
  press(row: number): void;
  over(row: number): void;
  /** @param further the rows from the last one that was marked up to this one */
  mark(anchor: HTMLElement, row: number, mark: Mark | undefined, further: boolean): void;
  release(anchor: HTMLElement, row: number, mark: Mark | undefined): void;
}

/** Lights the rows of a part from one to another, whichever comes first. */
export function lightBetween(part: number, from: number, to: number): void {
  const [first, end] = [Math.min(from, to), Math.max(from, to)];
  useViewStore.getState().lightRows(Array.from({ length: end - first + 1 }, (_, k) => ({ part, row: first + k })));
}

/** Rows of a part are marked one by one, from one to another by dragging, or with Shift. */
export function useTape(part: number) {
  const [marking, setMarking] = useState<TapePlace | undefined>();
  const pressed = useRef<number | undefined>(undefined);
  const last = useRef<number | undefined>(undefined);
  const open = useCallback(
    (anchor: HTMLElement, from: number, to: number, mark: Mark | undefined) => {
      const [row, end] = [Math.min(from, to), Math.max(from, to)];
      setMarking({ anchor, part, row, ...(end > row ? { to: end } : {}), mark });
    },
    [part],
  );
  const hands = useMemo<TapeHands>(
    () => ({
      press(row) {
        pressed.current = row;
      },
      over(row) {
        const from = pressed.current;
        if (from === undefined || from === row) return;
        lightBetween(part, from, row);
      },
      mark(anchor, row, mark, further) {
        const from = further ? (last.current ?? row) : row;
        last.current = row;
        pressed.current = undefined;
        open(anchor, from, row, mark);
      },
      release(anchor, row, mark) {
        const from = pressed.current;
        pressed.current = undefined;
        if (from === undefined || from === row) return;
        last.current = row;
        open(anchor, from, row, mark);
      },
    }),
    [open, part],
  );
  /** Opens the menu beside the row that the keys are at. */
  const markAt = useCallback(
    (within: ParentNode | null, from: number, to: number) => {
      const anchor = within?.querySelector<HTMLElement>(`[data-tape="${to}"]`);
      if (anchor) open(anchor, from, to, undefined);
    },
    [open],
  );
  return { marking, hands, markAt, done: useCallback(() => setMarking(undefined), []) };
}
