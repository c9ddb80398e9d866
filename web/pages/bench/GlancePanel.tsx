import Close from '@mui/icons-material/Close';
import { useState } from 'react';
import { Bar, BarChart, ResponsiveContainer, Tooltip, XAxis } from 'recharts';
import { type Glance, grouped, type JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useRunQuery } from '../../stores/use-engine-query.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './panels.module.css';
import { useAddStep } from './use-add-step.ts';

/** What a column holds. A value that is clicked shows its rows, and can become a step. */
/** A figure as it is read: grouped, and a mean with two digits more than the values have. Dates stay as they are. */
function figure(name: keyof NonNullable<Glance['range']>, range: NonNullable<Glance['range']>): string {
  const text = range[name] ?? '';
  if (!/^-?\d+(?:\.\d+)?$/.test(text)) return text;
  const decimals = (of: string) => of.split('.')[1]?.length ?? 0;
  const most = name === 'mean' ? Math.max(decimals(range.least), decimals(range.most)) + 2 : 12;
  return grouped(Number(text), most);
}

export function GlancePanel({ table, step, column }: { table: JobTable; step: number; column: string }) {
  const index = useMethodStore(
    (store) => store.view?.steps[step]?.columns.findIndex((one) => one.name === column) ?? -1,
  );
  const { notice, glanceAt } = useViewStore.getState();
  const addStep = useAddStep(table, step);
  const [picked, setPicked] = useState<{ of: Glance; text: string | null; total: number } | undefined>();
  const { data: glance } = useRunQuery(
    ['glance', table.id, step, column],
    (engine) => engine.tables.glance(table.id, step, column),
    { keep: true },
  );
  if (glance === undefined) return null;
  const chosen = picked?.of === glance ? picked : undefined;
  const choose = async (text: string | null) => {
    const { rows, total } = await engineClient().engine.tables.rowsWith(table.id, step, column, text);
    setPicked({ of: glance, text, total });
    const first = rows[0];
    if (first === undefined) return;
    const cells = rows.map((row) => ({ row, column: index }));
    notice({ of: 'after', cells, goTo: { row: first, column: index } });
  };
  const rule =
    chosen?.text === null
      ? { test: 'blank', columns: { by: 'names', names: [column] } }
      : { test: 'equals', column, text: chosen?.text ?? '', exact: true };
  const most = Math.max(1, ...glance.values.map((value) => value.count));
  const filled = glance.rows - glance.blank;
  return (
    <aside className={styles.glance} aria-label={`Glance at ${column}`}>
      <header>
        <h3>{column}</h3>
        <button
          type="button"
          aria-label="Close the glance"
          onClick={() => {
            glanceAt(undefined);
            notice(undefined);
          }}
        >
          <Close style={{ fontSize: 15 }} />
        </button>
      </header>
      <dl>
        <dt>rows</dt>
        <dd>{grouped(glance.rows)}</dd>
        <dt>different</dt>
        <dd>{grouped(glance.distinct)}</dd>
        <dt>blank</dt>
        <dd>
          {glance.blank > 0 ? (
            <button type="button" onClick={() => void choose(null)}>
              {grouped(glance.blank)} ({Math.round((glance.blank / Math.max(1, glance.rows)) * 100)}%)
            </button>
          ) : (
            'none'
          )}
        </dd>
        {glance.unreadable > 0 && (
          <>
            <dt>unreadable</dt>
            <dd className={styles.wrong}>{grouped(glance.unreadable)}</dd>
          </>
        )}
        {glance.range !== undefined &&
          (['least', 'most', 'mean', 'median', 'sum'] as const).map(
            (name) =>
              glance.range?.[name] !== undefined && (
                <div key={name} className={styles.pair}>
                  <dt>{name}</dt>
                  <dd>{figure(name, glance.range)}</dd>
                </div>
              ),
          )}
      </dl>
      {glance.bins.length > 1 && (
        <figure aria-label={glance.by === 'number' ? 'Histogram' : `By ${glance.by}`}>
          <ResponsiveContainer width="100%" height={90}>
            <BarChart data={glance.bins} margin={{ top: 4, right: 2, bottom: 0, left: 2 }} barCategoryGap={1}>
              <XAxis
                dataKey="from"
                tick={{ fontSize: 10, fill: 'var(--mute)' }}
                tickLine={false}
                axisLine={false}
                interval="preserveStartEnd"
              />
              <Tooltip
                cursor={{ fill: 'var(--chip)' }}
                contentStyle={{ background: 'var(--page)', border: '1px solid var(--hair)', fontSize: 11 }}
                labelFormatter={(_, payload) => {
                  const bin = payload[0]?.payload as Glance['bins'][number] | undefined;
                  return bin === undefined || bin.from === bin.to ? bin?.from : `${bin.from} to ${bin.to}`;
                }}
              />
              <Bar dataKey="count" fill="var(--spruce-strip)" isAnimationActive={false} />
            </BarChart>
          </ResponsiveContainer>
        </figure>
      )}
      <h4>Commonest values</h4>
      <ul className={styles.values}>
        {glance.values.map((value) => (
          <li key={value.text}>
            <button type="button" aria-pressed={chosen?.text === value.text} onClick={() => void choose(value.text)}>
              <span className={styles.share} style={{ width: `${(value.count / most) * 100}%` }} />
              <span className={styles.valueText}>{value.text === '' ? "''" : value.text}</span>
              <span className={styles.valueCount}>{grouped(value.count)}</span>
            </button>
          </li>
        ))}
      </ul>
      {chosen !== undefined && (
        <div className={styles.chosen}>
          <p>
            {grouped(chosen.total)} {chosen.total === 1 ? 'row' : 'rows'} lit
          </p>
          <button type="button" onClick={() => void addStep('keep-rows', 'keep rows', [column], { rules: [rule] })}>
            Keep only these
          </button>
          <button
            type="button"
            onClick={() => void addStep('set-aside', 'set aside rows', [column], { pile: 'others', rules: [rule] })}
          >
            Set aside
          </button>
        </div>
      )}
      <h4>Patterns</h4>
      <ul className={styles.patterns}>
        {glance.patterns.map((pattern) => (
          <li key={pattern.text}>
            <code>{pattern.text}</code>
            <span>{Math.round((pattern.count / Math.max(1, filled)) * 100)}%</span>
          </li>
        ))}
      </ul>
      <div className={styles.chosen}>
        <button
          type="button"
          onClick={() => void addStep('count', 'count values', [column], { columns: [column], share: 'whole' })}
        >
          Take the counts as a table
        </button>
      </div>
    </aside>
  );
}
