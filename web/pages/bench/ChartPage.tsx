import { useState } from 'react';
import { Bar, BarChart, CartesianGrid, Legend, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { grouped } from '../../../core/index.ts';
import type { StepView } from '../../engine/protocol.ts';
import { Choose } from '../../parts/Choose.tsx';
import { useRunQuery } from '../../stores/use-engine-query.ts';
import styles from './panels.module.css';

const COLOURS = ['#20605a', '#a9741c', '#6b3a63', '#5d87a1', '#b0402f', '#7a8f3c', '#8fb5ae', '#5d727c'];

/** A quick look at the table: one measure, or the count of rows, over one or two columns. */
export function ChartPage({ tableId, step, view }: { tableId: string; step: number; view: StepView }) {
  const numbers = view.columns.filter((column) => column.type === 'number' || column.type === 'whole');
  const others = view.columns.filter((column) => !numbers.includes(column));
  const [by, setBy] = useState<string | undefined>();
  const [split, setSplit] = useState('');
  const [measure, setMeasure] = useState<string | undefined>();
  const category = by ?? others[0]?.name ?? view.columns[0]?.name ?? '';
  const measured = measure ?? numbers[0]?.name ?? '';
  const { data } = useRunQuery(
    ['chart', tableId, step, category, split, measured],
    (engine) => engine.tables.chart(tableId, step, category, split || null, measured || null),
    { keep: true },
  );
  const rows =
    data?.categories.map((name, c) => ({
      name,
      ...Object.fromEntries(data.series.map((series, s) => [series, data.values[s]![c]])),
    })) ?? [];
  return (
    <div className={styles.chart}>
      <div className={styles.chartForm} role="group" aria-label="What the chart shows">
        <Choice
          label="Measure"
          value={measured}
          names={numbers.map((one) => one.name)}
          none="count of rows"
          onChange={setMeasure}
        />
        <Choice label="over" value={category} names={view.columns.map((one) => one.name)} onChange={setBy} />
        <Choice
          label="by"
          value={split}
          names={others.map((one) => one.name)}
          none="nothing else"
          onChange={setSplit}
        />
      </div>
      {data === undefined || rows.length === 0 ? (
        <p className={styles.hint}>Nothing to draw: choose a column to go over.</p>
      ) : (
        <figure aria-label={`${measured || 'Rows'} over ${category}`} className={styles.figure}>
          <ResponsiveContainer width="100%" height="100%">
            <BarChart data={rows} margin={{ top: 12, right: 12, bottom: 8, left: 8 }}>
              <CartesianGrid vertical={false} stroke="var(--hair2)" />
              <XAxis dataKey="name" tick={{ fontSize: 11, fill: 'var(--mute)' }} tickLine={false} />
              <YAxis
                tick={{ fontSize: 11, fill: 'var(--mute)' }}
                tickLine={false}
                axisLine={false}
                width={64}
                tickFormatter={(value: number) => grouped(value)}
              />
              <Tooltip
                cursor={{ fill: 'var(--chip)' }}
                contentStyle={{ background: 'var(--page)', border: '1px solid var(--hair)', fontSize: 12 }}
              />
              {data.series.length > 1 && <Legend wrapperStyle={{ fontSize: 12 }} />}
              {data.series.map((series, s) => (
                <Bar key={series} dataKey={series} fill={COLOURS[s % COLOURS.length]} isAnimationActive={false} />
              ))}
            </BarChart>
          </ResponsiveContainer>
        </figure>
      )}
      {data !== undefined && data.more > 0 && <p className={styles.hint}>and {grouped(data.more)} more, not drawn</p>}
    </div>
  );
}

interface ChoiceProps {
  label: string;
  value: string;
  names: readonly string[];
  none?: string;
  onChange(name: string): void;
}

function Choice({ label, value, names, none, onChange }: ChoiceProps) {
  return (
    <span>
      {label}
      <Choose
        label={label}
        value={value}
        choices={[...(none === undefined ? [] : [['', none] as const]), ...names.map((name) => [name, name] as const)]}
        onChange={onChange}
      />
    </span>
  );
}
