import Close from '@mui/icons-material/Close';
import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import { type Check, checkSentence, checksToFillIn, type JobTable, type NewCheck } from '../../../core/index.ts';
import type { ColumnBrief, TallyView } from '../../engine/protocol.ts';
import type { SentenceContext } from '../../parts/sentence/context.ts';
import { Sentence } from '../../parts/sentence/Sentence.tsx';
import { editTable, newId, useJobStore } from '../../stores/job-store.ts';
import { keyOf, useEngineQuery } from '../../stores/use-engine-query.ts';
import styles from './tally.module.css';

const NONE: readonly ColumnBrief[] = [];

/** Rules that belong to the table and run with it each time. */
export function ChecksPane({
  table,
  view,
  onBench,
}: {
  table: JobTable;
  view: TallyView;
  onBench(shown: object): void;
}) {
  const edit = useJobStore((store) => store.edit);
  const checks = table.checks ?? [];
  const [selected, setSelected] = useState<string | undefined>();
  const [adding, setAdding] = useState(false);
  const [typed, setTyped] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const last = table.steps.length - 1;
  const { data: columns = NONE } = useEngineQuery(
    ['columns', table.id, last, keyOf(view)],
    (engine) => engine.tables.columns(table.id, last),
    { keep: true },
  );
  // As soon as the pane is in sight its key works.
  useLayoutEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        event.key.toLowerCase() !== 'c' ||
        event.ctrlKey ||
        event.metaKey ||
        target.matches('input, textarea, [contenteditable]')
      )
        return;
      event.preventDefault();
      input.current?.focus();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);
  const context = useMemo<SentenceContext>(
    () => ({
      columns,
      sheets: [],
      tables: [],
      sets: [],
      picking: () => undefined,
      ask: { formula: async () => ({ first: [] }), patterns: async () => [] },
    }),
    [columns],
  );
  const change = (label: string, next: (checks: readonly Check[]) => Check[]) =>
    edit(label, (job) => editTable(job, table.id, (one) => ({ ...one, checks: next(one.checks ?? []) })));
  const add = (check: NewCheck) => {
    const id = newId();
    change('add a check', (all) => [...all, { ...check, id } as Check]);
    setTyped('');
    setAdding(false);
    setSelected(id);
    input.current?.blur();
  };
  const asked = typed.trim().toLowerCase();
  const offers = view.offers.filter((one) => one.text.toLowerCase().includes(asked));
  const others = checksToFillIn(columns[0]?.name ?? '').filter(({ title }) => title.toLowerCase().includes(asked));
  return (
    <section className={`${styles.pane} ${styles.frost}`} aria-label="Checks">
      <div className={styles.cap}>
        <h2>Checks</h2>
        <span>run with the method</span>
      </div>
      <ul className={styles.checks}>
        {checks.map((check) => {
          const result = view.checks.find((one) => one.id === check.id);
          const { id, ...params } = check;
          return (
            <li key={id}>
              <span className={result === undefined || result.ok ? styles.good : styles.bad} aria-hidden="true">
                {result === undefined ? '…' : result.ok ? '✓' : '✗'}
              </span>
              <div onFocus={() => setSelected(id)}>
                <Sentence
                  phrases={checkSentence(check)}
                  params={params}
                  context={context}
                  selected={selected === id}
                  onChange={(next) =>
                    change('change a check', (all) =>
                      all.map((one) => (one.id === id ? ({ ...next, id } as Check) : one)),
                    )
                  }
                />
                <p className={result?.ok === false ? styles.bad : undefined}>
                  {result === undefined ? '' : `${result.ok ? 'holds' : 'fails'}: ${result.found}`}
                </p>
                <p className={styles.checkActions}>
                  <button
                    type="button"
                    aria-pressed={check.level === 'stop'}
                    onClick={() =>
                      change('change a check', (all) =>
                        all.map((one) =>
                          one.id === id ? { ...one, level: one.level === 'stop' ? 'warn' : 'stop' } : one,
                        ),
                      )
                    }
                  >
                    {check.level === 'stop' ? 'stops an export' : 'warns'}
                  </button>
                  {result?.ok === false && result.rows.length > 0 && (
                    <button
                      type="button"
                      onClick={() =>
                        onBench({
                          cell: {
                            row: result.rows[0],
                            column: Math.max(
                              0,
                              columns.findIndex((column) => column.name === result.column),
                            ),
                          },
                        })
                      }
                    >
                      Show the rows
                    </button>
                  )}
                </p>
              </div>
              <button
                type="button"
                className={styles.remove}
                aria-label="Remove the check"
                onClick={() => change('take a check away', (all) => all.filter((one) => one.id !== id))}
              >
                <Close style={{ fontSize: 14 }} />
              </button>
            </li>
          );
        })}
      </ul>
      {checks.length === 0 && <p className={styles.empty}>No check yet. Those that hold now are offered below.</p>}
      <div className={styles.add}>
        {adding && (
          <ul className={styles.offers} role="listbox" aria-label="Checks to add">
            {offers.map((one) => (
              <li key={one.text}>
                <button
                  type="button"
                  role="option"
                  aria-selected={false}
                  onMouseDown={(event) => event.preventDefault()}
                  onClick={() => add(one.check)}
                >
                  {one.text} <small>holds now</small>
                </button>
              </li>
            ))}
            {others.map(({ title, check }) => (
              <li key={title}>
                <button
                  type="button"
                  role="option"
                  aria-selected={false}
                  onMouseDown={(event) => event.preventDefault()}
                  onClick={() => add(check)}
                >
                  {title} <small>to fill in</small>
                </button>
              </li>
            ))}
          </ul>
        )}
        <input
          ref={input}
          aria-label="Add a check"
          placeholder="Add a check"
          value={typed}
          onFocus={() => setAdding(true)}
          onBlur={() => setAdding(false)}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && offers[0] !== undefined) add(offers[0].check);
            if (event.key === 'Escape') input.current?.blur();
          }}
        />
        <kbd>C</kbd>
      </div>
    </section>
  );
}
