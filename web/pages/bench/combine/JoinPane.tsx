import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import { useEffect, useMemo, useState } from 'react';
import {
  grouped,
  type JobStep,
  type JoinLook,
  type JoinSide,
  jobNames,
  type MatchKeys,
  neededTables,
  sentenceText,
  stepSentence,
} from '../../../../core/index.ts';
import { NamesEditor } from '../../../parts/sentence/ColumnSetEditor.tsx';
import { Picker } from '../../../parts/sentence/fields.tsx';
import { useJobStore } from '../../../stores/job-store.ts';
import { keyOf, useEngineQuery } from '../../../stores/use-engine-query.ts';
import styles from './combine.module.css';
import type { PaneProps } from './pane-props.ts';

interface JoinParams {
  table: string;
  how: string;
  keys: MatchKeys;
  forgiving: boolean;
  bring?: unknown;
  columns?: string[];
  several?: string;
}
const HOW = {
  left: 'all rows here',
  inner: 'rows that match',
  full: 'all rows of both',
  unmatched: 'only rows here without a match',
};

/** A join or a look-up: which rows meet, which do not, and what would fix it. */
export function JoinPane({ table, place, params, onKeep, onClose, kind }: PaneProps & { kind: 'join' | 'look-up' }) {
  const job = useJobStore((store) => store.job)!;
  const others = job.tables.filter((one) => one.id !== table.id);
  const known = params as unknown as JoinParams | undefined;
  // The table that this one comes from is seldom the one to join.
  const needed = neededTables(job, table.id);
  const likely = others.find((one) => !needed.has(one.id)) ?? others[0];
  const [other, setOther] = useState(known?.table || likely?.id || '');
  const [how, setHow] = useState(known?.how ?? 'left');
  const [keys, setKeys] = useState<MatchKeys>(known?.keys ?? []);
  const [forgiving, setForgiving] = useState(known?.forgiving ?? false);
  const [columns, setColumns] = useState<readonly string[] | undefined>(known?.columns);
  const [before, setBefore] = useState<readonly Omit<JobStep, 'id'>[]>([]);
  const fresh = known === undefined || known.table !== other;
  const own = useMemo(() => ({ ...place, before }), [place, before]);
  const { data: guessed } = useEngineQuery(
    ['join guess', keyOf(place), other],
    (engine) => engine.combining.joinGuess(place, other),
    { when: other !== '', keep: true },
  );
  const names = { here: guessed?.here ?? [], there: guessed?.columns ?? [] };
  useEffect(() => {
    if (fresh && guessed !== undefined) setKeys(guessed.keys.length > 0 ? guessed.keys : [{ left: '', right: '' }]);
  }, [fresh, guessed]);
  const { data: look } = useEngineQuery(
    ['join', keyOf(own), other, keys, forgiving],
    (engine) => engine.combining.joinLook(own, other, { keys, forgiving }),
    { when: other !== '', keep: true },
  );
  const otherName = job.tables.find((one) => one.id === other)?.name ?? '';
  const brought = columns ?? names.there.filter((name) => keys.every((one) => one.right !== name)).slice(0, 1);
  const whole = keys.filter(({ left, right }) => left !== '' && right !== '');
  const keep = () =>
    onKeep(
      {
        kind,
        params:
          kind === 'join'
            ? { table: other, how, keys: whole, forgiving, bring: known?.bring ?? { by: 'all' } }
            : { table: other, keys: whole, forgiving, columns: [...brought], several: known?.several ?? 'unreadable' },
      },
      before,
    );
  const pick = (k: number, side: 'left' | 'right', name: string) =>
    setKeys(keys.map((one, at) => (at === k ? { ...one, [side]: name } : one)));
  const out = look === undefined ? 0 : kind === 'look-up' ? look.left.rows : rowsOut(look, how);
  return (
    <>
      <div className={styles.asked}>
        <div>
          <span>Other table</span>
          <Picker
            label="Other table"
            value={other}
            choices={Object.fromEntries(others.map((one) => [one.id, one.name]))}
            onChange={setOther}
          />
        </div>
        {kind === 'join' && (
          <div>
            <span>Keep</span>
            <Picker label="Which rows stay" value={how} choices={HOW} onChange={setHow} />
          </div>
        )}
        <div>
          <span>Keys are compared</span>
          <Picker
            label="How keys are compared"
            value={String(forgiving)}
            choices={{ false: 'exactly', true: 'ignoring blanks, case and accents' }}
            onChange={(text) => setForgiving(text === 'true')}
          />
        </div>
      </div>
      <ul className={styles.keys} aria-label="Keys">
        {keys.map((one, k) => (
          <li key={`${k}/${one.left}/${one.right}`}>
            <ColumnChoice
              label={`Column here, key ${k + 1}`}
              names={names.here}
              value={one.left}
              onChange={(name) => pick(k, 'left', name)}
            />
            <span>is</span>
            <ColumnChoice
              label={`Column there, key ${k + 1}`}
              names={names.there}
              value={one.right}
              onChange={(name) => pick(k, 'right', name)}
            />
            {keys.length > 1 && (
              <button
                type="button"
                aria-label={`Remove key ${k + 1}`}
                onClick={() => setKeys(keys.filter((_, at) => at !== k))}
              >
                <Close style={{ fontSize: 14 }} />
              </button>
            )}
          </li>
        ))}
        <li>
          <button type="button" onClick={() => setKeys([...keys, { left: '', right: '' }])}>
            and another key
          </button>
        </li>
      </ul>
      {kind === 'look-up' && (
        <div className={styles.brings}>
          <p>Columns to bring</p>
          <NamesEditor names={names.there} value={brought} onChange={setColumns} />
        </div>
      )}
      {before.length > 0 && (
        <p className={styles.first}>
          First: {before.map((step) => sentenceText(stepSentence({ ...step, id: '' }, jobNames(job)))).join('; ')}{' '}
          <button type="button" onClick={() => setBefore([])}>
            without it
          </button>
        </p>
      )}
      {look !== undefined && (
        <>
          <div className={styles.sides} role="status">
            <Side name={table.name} side={look.left} />
            <Side name={otherName} side={look.right} />
            <div className={styles.side}>
              <p className={styles.sideName}>come out</p>
              <p className={styles.big}>{grouped(out)} rows</p>
              <p className={look.severalKeys > 0 && kind === 'join' ? styles.look : styles.quiet}>
                {look.severalKeys === 0
                  ? 'no row matches several'
                  : kind === 'join'
                    ? `${grouped(look.severalKeys)} ${look.severalKeys === 1 ? 'key matches' : 'keys match'} several rows; rows will be duplicated`
                    : `${grouped(look.severalKeys)} ${look.severalKeys === 1 ? 'key matches' : 'keys match'} several rows`}
              </p>
            </div>
          </div>
          {look.fixes.length > 0 && (
            <div className={styles.fixes}>
              <p>What would fix it</p>
              {look.fixes.map((fix) => (
                <button
                  key={fix.label}
                  type="button"
                  onClick={() => {
                    if (fix.forgiving !== undefined) setForgiving(fix.forgiving);
                    if (fix.keys !== undefined) setKeys(fix.keys);
                    if (fix.step !== undefined) setBefore([...before, fix.step]);
                  }}
                >
                  <span>{fix.label}</span>
                  <b>
                    {grouped(fix.matched)} match
                    {kind === 'join' && fix.out !== look.out.left ? `, ${grouped(fix.out)} come out` : ''}
                  </b>
                </button>
              ))}
            </div>
          )}
          <div className={styles.lists}>
            <Unmatched title={`Unmatched in this table`} side={look.left} />
            <Unmatched title={`In ${otherName} without a match`} side={look.right} />
            {look.several.length > 0 && (
              <section aria-label="Keys with several matches">
                <h3>Meet several</h3>
                <ul>
                  {look.several.map((one) => (
                    <li key={one.key}>
                      <span>{one.key}</span>
                      <b>
                        {grouped(one.here)} here × {grouped(one.there)} there
                      </b>
                    </li>
                  ))}
                </ul>
              </section>
            )}
          </div>
        </>
      )}
      <div className={styles.foot}>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={whole.length === 0 || other === ''} onClick={keep}>
          Keep it
        </Button>
      </div>
    </>
  );
}

function rowsOut(look: JoinLook, how: string): number {
  if (how === 'unmatched') return look.left.unmatched;
  return look.out[how as 'left' | 'inner' | 'full'];
}

function ColumnChoice({
  label,
  names,
  value,
  onChange,
}: {
  label: string;
  names: readonly string[];
  value: string;
  onChange(name: string): void;
}) {
  const choices = Object.fromEntries([
    ...(names.includes(value) ? [] : [[value, value === '' ? 'choose a column' : `${value} (not there)`]]),
    ...names.map((name) => [name, name]),
  ]);
  return <Picker label={label} value={value} choices={choices} onChange={onChange} />;
}

function Side({ name, side }: { name: string; side: JoinSide }) {
  return (
    <div className={styles.side}>
      <p className={styles.sideName}>{name}</p>
      <p className={styles.big}>
        {grouped(side.matched)} of {grouped(side.rows)} match
      </p>
      <div className={styles.bar} aria-hidden="true">
        <i style={{ width: `${side.rows === 0 ? 0 : (100 * side.matched) / side.rows}%` }} />
      </div>
      <p className={side.unmatched > 0 ? styles.look : styles.quiet}>
        {side.unmatched === 0 ? 'every row meets one' : `${grouped(side.unmatched)} without a match`}
      </p>
    </div>
  );
}

function Unmatched({ title, side }: { title: string; side: JoinSide }) {
  if (side.unmatched === 0) return null;
  return (
    <section aria-label={title}>
      <h3>{title}</h3>
      <ul>
        {side.keys.map((one) => (
          <li key={one.key}>
            <span>
              {one.key}
              {one.near !== undefined && <em> nearly {one.near}</em>}
            </span>
            <b>{one.rows === 1 ? '1 row' : `${grouped(one.rows)} rows`}</b>
          </li>
        ))}
      </ul>
      {side.differentKeys > side.keys.length && (
        <p className={styles.quiet}>and {grouped(side.differentKeys - side.keys.length)} more keys</p>
      )}
    </section>
  );
}
