import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import { NameInput } from '../../../parts/NameInput.tsx';
import styles from './received.module.css';

interface Props {
  /** Characters in a line. */
  width: number;
  /** Pixels of one character. */
  advance: number;
  profile: readonly number[];
  cuts: readonly number[];
  names: readonly string[];
  /** Characters from one figure to the next. */
  every?: number;
  /** What a cut stands before. */
  unit?: string;
  onCuts(cuts: number[], names: string[], label: string, merge?: string): void;
}

/** Columns named here keep their name when a cut beside them moves, comes or goes. */
export function withCut(cuts: readonly number[], names: readonly string[], at: number) {
  const k = cuts.filter((cut) => cut < at).length;
  const padded = Array.from({ length: cuts.length + 1 }, (_, n) => names[n] ?? '');
  return { cuts: cuts.toSpliced(k, 0, at), names: padded.toSpliced(k + 1, 0, '') };
}

export function withoutCut(cuts: readonly number[], names: readonly string[], k: number) {
  const padded = Array.from({ length: cuts.length + 1 }, (_, n) => names[n] ?? '');
  const kept = padded[k] === '' ? padded.toSpliced(k, 1) : padded.toSpliced(k + 1, 1);
  return { cuts: cuts.toSpliced(k, 1), names: kept };
}

/** A ruler over lines in fixed columns: cuts are dragged, added by a click and removed; columns are named on it. */
export function Ruler({ width, advance, profile, cuts, names, every = 10, unit = 'character', onCuts }: Props) {
  const strip = useRef<HTMLDivElement>(null);
  const [dragged, setDragged] = useState<number | undefined>();
  const [hover, setHover] = useState<number | undefined>();
  const most = Math.max(width, (cuts.at(-1) ?? 0) + 8);
  const at = (event: PointerEvent) => {
    const left = strip.current!.getBoundingClientRect().left;
    return Math.max(1, Math.min(most, Math.round((event.clientX - left) / advance)));
  };
  const move = (k: number, to: number) => {
    const bounded = Math.max((cuts[k - 1] ?? 0) + 1, Math.min((cuts[k + 1] ?? most + 1) - 1, to));
    if (bounded !== cuts[k]) onCuts(cuts.with(k, bounded), [...names], 'move a cut', `cut-${k}`);
  };
  const remove = (k: number) => {
    const next = withoutCut(cuts, names, k);
    onCuts(next.cuts, next.names, 'remove a cut');
  };
  const add = (to: number) => {
    if (cuts.includes(to)) return;
    const next = withCut(cuts, names, to);
    onCuts(next.cuts, next.names, 'add a cut');
  };
  const onKey = (event: KeyboardEvent, k: number) => {
    const by = event.shiftKey ? 5 : 1;
    if (event.key === 'ArrowLeft') move(k, cuts[k]! - by);
    else if (event.key === 'ArrowRight') move(k, cuts[k]! + by);
    else if (event.key === 'Delete' || event.key === 'Backspace') remove(k);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const starts = [0, ...cuts];
  return (
    <div className={styles.ruler} style={{ width: most * advance }}>
      <div className={styles.names}>
        {starts.map((from, k) => (
          <ColumnName
            key={k}
            name={names[k] ?? ''}
            left={from * advance}
            width={((starts[k + 1] ?? most) - from) * advance}
            position={k}
            onName={(name) => {
              const padded = Array.from({ length: starts.length }, (_, n) => names[n] ?? '');
              onCuts([...cuts], padded.with(k, name), 'name a column', `name-${k}`);
            }}
          />
        ))}
      </div>
      <div
        ref={strip}
        className={styles.strip}
        title="Click to add a cut"
        onPointerMove={(event) => {
          if (dragged === undefined) setHover(at(event));
          else move(dragged, at(event));
        }}
        onPointerLeave={() => setHover(undefined)}
        onPointerUp={() => setDragged(undefined)}
        onClick={(event) => {
          if (event.target === strip.current) add(at(event as unknown as PointerEvent));
        }}
      >
        {Array.from({ length: Math.floor(most / every) }, (_, k) => (
          <span key={k} className={styles.tick} style={{ left: (k + 1) * every * advance }}>
            {(k + 1) * every}
          </span>
        ))}
        <svg className={styles.profile} width={most * advance} height={18} aria-hidden="true">
          {profile.map((share, k) =>
            share === 0 ? null : (
              <rect key={k} x={k * advance} width={advance} y={18 - Math.max(1, share * 17)} height={18} />
            ),
          )}
        </svg>
        {hover !== undefined && dragged === undefined && !cuts.includes(hover) && (
          <span className={styles.ghost} style={{ left: hover * advance }} aria-hidden="true" />
        )}
        {cuts.map((cut, k) => (
          <span
            key={k}
            role="slider"
            tabIndex={0}
            aria-label={`Cut ${k + 1}, before ${unit}`}
            aria-valuenow={cut + 1}
            aria-valuemin={2}
            aria-valuemax={most + 1}
            title="Drag to move; Delete or a double click removes it"
            className={`${styles.handle} ${dragged === k ? styles.dragged : ''}`}
            style={{ left: cut * advance }}
            onPointerDown={(event) => {
              event.preventDefault();
              event.currentTarget.focus();
              event.currentTarget.setPointerCapture(event.pointerId);
              setDragged(k);
            }}
            onPointerMove={(event) => dragged === k && move(k, at(event))}
            onPointerUp={() => setDragged(undefined)}
            onDoubleClick={() => remove(k)}
            onKeyDown={(event) => onKey(event, k)}
          />
        ))}
      </div>
    </div>
  );
}

interface NameProps {
  name: string;
  left: number;
  width: number;
  position: number;
  onName(name: string): void;
}

function ColumnName({ name, left, width, position, onName }: NameProps) {
  const [open, setOpen] = useState(false);
  const letters = String.fromCharCode(65 + (position % 26));
  if (open) {
    return (
      <NameInput
        className={styles.nameInput}
        style={{ left, width: Math.max(width - 2, 90) }}
        label={`Name of column ${position + 1}`}
        text={name}
        onDone={(next) => {
          setOpen(false);
          if (next !== name) onName(next);
        }}
      />
    );
  }
  return (
    <button
      type="button"
      className={`${styles.columnName} ${name === '' ? styles.unnamed : ''}`}
      style={{ left: left + 1, maxWidth: Math.max(18, width - 3) }}
      title={name === '' ? 'Name this column' : `${name}: click to rename`}
      aria-label={name === '' ? `Column ${position + 1}, without a name` : `Column ${position + 1}, ${name}`}
      onClick={() => setOpen(true)}
    >
      {name === '' ? letters : name}
    </button>
  );
}
