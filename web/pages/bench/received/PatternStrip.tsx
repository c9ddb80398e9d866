import { type FormEvent, useRef, useState } from 'react';
import { engineClient } from '../../../engine/client.ts';
import styles from './received.module.css';
import type { Reading } from './use-reading.ts';

interface Props {
  tableId: string;
  part: number;
  reading: Reading;
  sample: string;
  pieces: readonly Piece[];
}

export interface Piece {
  from: number;
  to: number;
  name: string;
}

/** A sample line: a stretch that is selected in it and named becomes a column, for every line of its kind. */
export function PatternStrip({ tableId, part, reading, sample, pieces }: Props) {
  const line = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState<{ from: number; to: number; name: string } | undefined>();
  const select = () => {
    const selection = getSelection();
    if (selection === null || selection.isCollapsed || line.current === null) return;
    const range = selection.getRangeAt(0);
    if (!line.current.contains(range.commonAncestorContainer)) return;
    const [from, to] = trimmed(
      sample,
      offsetIn(line.current, range.startContainer, range.startOffset),
      offsetIn(line.current, range.endContainer, range.endOffset),
    );
    if (from >= to) return;
    setChosen({ from, to, name: '' });
  };
  const put = async (next: readonly Piece[], label: string) => {
    const template = await engineClient().engine.report.templateOf(tableId, part, sample, next);
    reading.change(label, { template });
    setChosen(undefined);
    getSelection()?.removeAllRanges();
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const name = chosen?.name.replace(/[{}]/g, '').trim() ?? '';
    if (chosen === undefined || name === '') return;
    const others = pieces.filter(
      (piece) => piece.name !== name && !(piece.from === chosen.from && piece.to === chosen.to),
    );
    void put([...others, { from: chosen.from, to: chosen.to, name }], `name the piece ${name}`);
  };
  const known = pieces.find((piece) => piece.from === chosen?.from && piece.to === chosen.to);
  return (
    <div className={styles.pattern}>
      <p className={styles.hint}>
        Select a stretch of this line and name it. Click another line below to work on that one.
      </p>
      <div
        ref={line}
        className={styles.sample}
        role="textbox"
        aria-readonly="true"
        aria-label="Sample line"
        tabIndex={0}
        onMouseUp={select}
      >
        {stretches(sample, pieces, chosen).map((stretch) =>
          stretch.piece === undefined ? (
            <span key={stretch.from} className={stretch.chosen ? styles.chosen : undefined}>
              {stretch.text}
            </span>
          ) : (
            <span key={stretch.from} className={styles.named} title={stretch.piece.name}>
              {stretch.text}
            </span>
          ),
        )}
      </div>
      {pieces.length > 0 && (
        <div className={styles.pieces} role="group" aria-label="Named pieces">
          {pieces.map((piece) => (
            <button
              key={piece.name}
              type="button"
              title="Rename or remove"
              aria-label={`Piece ${piece.name}: ${sample.slice(piece.from, piece.to)}`}
              onClick={() => setChosen(piece)}
            >
              {piece.name}
            </button>
          ))}
        </div>
      )}
      {chosen !== undefined && (
        <form className={styles.naming} onSubmit={submit}>
          <label>
            <span>‘{sample.slice(chosen.from, chosen.to)}’ is</span>
            <input
              aria-label="Name of the piece"
              value={chosen.name}
              placeholder="a name, such as Time"
              ref={(input) => {
                if (chosen.name === '') input?.focus();
              }}
              onChange={(event) => setChosen({ ...chosen, name: event.target.value })}
            />
          </label>
          <button type="submit" disabled={chosen.name.trim() === ''}>
            Make it a column
          </button>
          {known !== undefined && (
            <button
              type="button"
              onClick={() =>
                void put(
                  pieces.filter((piece) => piece !== known),
                  `take the piece ${known.name} away`,
                )
              }
            >
              Take away
            </button>
          )}
          <button type="button" onClick={() => setChosen(undefined)}>
            Cancel
          </button>
        </form>
      )}
    </div>
  );
}

/** Characters of text before a place inside an element. */
function offsetIn(element: HTMLElement, node: Node, offset: number): number {
  const range = document.createRange();
  range.setStart(element, 0);
  range.setEnd(node, offset);
  return range.toString().length;
}

function trimmed(text: string, from: number, to: number): [number, number] {
  let [a, b] = [from, to];
  while (a < b && text[a] === ' ') a++;
  while (b > a && text[b - 1] === ' ') b--;
  return [a, b];
}

interface Stretch {
  from: number;
  text: string;
  piece?: Piece;
  chosen?: boolean;
}

function stretches(
  text: string,
  pieces: readonly Piece[],
  chosen: { from: number; to: number } | undefined,
): Stretch[] {
  const found: Stretch[] = [];
  let at = 0;
  const free = chosen !== undefined && pieces.every((piece) => piece.to <= chosen.from || piece.from >= chosen.to);
  const marked: (Piece & { chosen?: boolean })[] = [
    ...pieces,
    ...(free ? [{ ...chosen, name: '', chosen: true }] : []),
  ];
  for (const piece of marked.sort((a, b) => a.from - b.from)) {
    if (piece.from < at) continue;
    if (piece.from > at) found.push({ from: at, text: text.slice(at, piece.from) });
    const own = { from: piece.from, text: text.slice(piece.from, piece.to) };
    found.push(piece.chosen ? { ...own, chosen: true } : { ...own, piece });
    at = piece.to;
  }
  if (at < text.length) found.push({ from: at, text: text.slice(at) });
  return found;
}
