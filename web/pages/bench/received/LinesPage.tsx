import { useState } from 'react';
import { grouped, type JobTable, lineReader, patternNames, type RecordKinds } from '../../../../core/index.ts';
import type { PartView, TextView } from '../../../engine/protocol.ts';
import { useRunQuery } from '../../../stores/use-engine-query.ts';
import { PatternStrip, type Piece } from './PatternStrip.tsx';
import styles from './received.module.css';
import { TextPage } from './TextPage.tsx';
import { leftPage, type Reading } from './use-reading.ts';

interface Props {
  table: JobTable;
  step: number;
  part: number;
  sheet: PartView;
  reading: Reading;
}

/** A text as lines, with what its reading needs around them. */
export function LinesPage({ table, step, part, sheet, reading }: Props) {
  const profile = useProfile(table.id, part);
  const records = (reading.params['records'] ?? null) as RecordKinds | null;
  const [kind, setKind] = useState<string | null>(null);
  const chosen = records?.kinds.find((one) => one.text === kind);
  const layout = {
    cuts: (chosen?.cuts ?? reading.params['cuts'] ?? []) as number[],
    names: (chosen?.names ?? reading.params['names'] ?? []) as string[],
    put: (given: { cuts: number[]; names: string[] }, label: string, merge?: string) => {
      const last = given.names.findLastIndex((name) => name !== '');
      const next = { ...given, names: given.names.slice(0, last + 1) };
      if (chosen === undefined || records === null) {
        reading.change(label, next, merge);
        return;
      }
      const kinds = records.kinds.map((one) => (one === chosen ? { ...one, ...next } : one));
      reading.change(label, { records: { ...records, kinds } }, merge === undefined ? undefined : `${kind}-${merge}`);
    },
  };
  const [sample, setSample] = useState<string | undefined>();
  const line = useSampleLine(table.id, step, part, reading, sample);
  return (
    <>
      {records !== null && leftPage(reading) === 'ruler' && (
        <div className={styles.kinds} role="group" aria-label="Cuts of">
          cuts of
          {[null, ...records.kinds.map((one) => one.text)].map((text) => (
            <button key={String(text)} type="button" aria-pressed={kind === text} onClick={() => setKind(text)}>
              {text === null ? 'other lines' : text}
            </button>
          ))}
        </div>
      )}
      {leftPage(reading) === 'template' && line !== undefined && (
        <PatternStrip
          key={line.text}
          tableId={table.id}
          part={part}
          reading={reading}
          sample={line.text}
          pieces={line.pieces}
        />
      )}
      <TextPage
        table={table}
        step={step}
        part={part}
        sheet={sheet}
        reading={reading}
        layout={layout}
        profile={profile}
        onLine={setSample}
      />
      <MisfitBar table={table} reading={reading} profile={profile} />
    </>
  );
}

function useProfile(tableId: string, part: number): TextView | undefined {
  const profile = useRunQuery(['profile', tableId, part], (engine) => engine.report.textProfile(tableId, part), {
    keep: true,
  });
  return profile.data;
}

/** The line that pieces are picked in: the one that was clicked, else the first that fits, else the first. */
function useSampleLine(tableId: string, step: number, part: number, reading: Reading, clicked: string | undefined) {
  const asked = useRunQuery(
    ['lines', tableId, step, part],
    (engine) => engine.report.lines(tableId, step, part, 0, 400),
    { when: leftPage(reading) === 'template', keep: true },
  );
  const lines = asked.data ?? [];
  const filled = lines.filter((one) => one.text.trim() !== '');
  const line = filled.find((one) => one.text === clicked) ?? filled.find((one) => one.fits) ?? filled[0];
  const text = clicked ?? line?.text;
  if (text === undefined) return undefined;
  // Straight from the template, so that pieces never lag behind what was just named.
  const pieces = piecesOf(reading, text);
  const whole = pieces.length === 1 && pieces[0]!.to - pieces[0]!.from === text.length;
  return { text, pieces: whole ? [] : pieces.filter((piece) => piece.name !== '') };
}

/** The named pieces of a line, none when it does not match. */
function piecesOf({ kind, params }: Reading, text: string): Piece[] {
  try {
    const names = patternNames(params as Parameters<typeof patternNames>[0]);
    const { spans, fits } = lineReader(kind, params)(text);
    return fits ? spans.map(({ from, to, column }) => ({ from, to, name: names[column] ?? '' })) : [];
  } catch {
    return [];
  }
}

/** Lines that the reading does not fit, and the way to set them aside by rule. */
function MisfitBar({ table, reading, profile }: { table: JobTable; reading: Reading; profile: TextView | undefined }) {
  if (profile === undefined || profile.misfits === 0) return null;
  const pattern = leftPage(reading) === 'template';
  const rest = String(reading.params['rest'] ?? '');
  const examples = profile.examples.join(' · ');
  const done =
    rest !== '' &&
    table.steps.some((step) => step.kind === 'set-aside' && JSON.stringify(step.params).includes(JSON.stringify(rest)));
  const setAside = () => {
    const column = rest === '' ? 'Line' : rest;
    const only = { by: 'names', names: [column] };
    reading.changeAndAdd('set aside lines that do not fit', { rest: column }, [
      { kind: 'set-aside', params: { pile: 'notes', rules: [{ test: 'filled', columns: only }] } },
      { kind: 'drop-columns', params: { columns: only } },
    ]);
  };
  const count = grouped(profile.misfits);
  return (
    <div className={styles.bar} role="status">
      <span title={examples}>
        <b>
          {count} {profile.misfits === 1 ? 'line' : 'lines'}
        </b>{' '}
        {done ? 'set aside: ' : pattern ? 'did not match: ' : 'words cut in two: '}
        {examples}
      </span>
      {!done && (
        <button type="button" onClick={setAside}>
          Set aside
        </button>
      )}
    </div>
  );
}
