import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { type FormulaTrial, FUNCTIONS } from '../../../core/index.ts';
import { columnText } from './column-text.ts';
import type { SentenceContext } from './context.ts';
import type { FormulaFieldHandle } from './FormulaField.tsx';
import styles from './sentence.module.css';

const FormulaField = lazy(() => import('./FormulaField.tsx').then((module) => ({ default: module.FormulaField })));

const WAIT_MS = 150;

/** SQL text, with completion, what it gives in the first rows, and what is wrong under its place. */
export function ExpressionEditor({
  context,
  value,
  onChange,
}: {
  context: SentenceContext;
  value: string;
  onChange(text: string): void;
}) {
  const [text, setText] = useState(value);
  const [trial, setTrial] = useState<FormulaTrial>({ first: [] });
  const field = useRef<FormulaFieldHandle>(null);
  const names = context.columns.map((column) => column.name);
  const { ask } = context;
  useEffect(() => {
    let current = true;
    const timer = setTimeout(() => void ask.formula(text).then((found) => current && setTrial(found)), WAIT_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [ask, text]);
  return (
    <div className={styles.stack}>
      <Suspense fallback={<div className={styles.formula} />}>
        <FormulaField
          ref={field}
          names={names}
          value={text}
          trouble={trial.trouble}
          onChange={(next) => {
            setText(next);
            onChange(next);
          }}
        />
      </Suspense>
      {trial.trouble !== undefined ? (
        <p className={styles.wrong} role="alert">
          {trial.trouble.message}
          {trial.trouble.from >= text.length ? ', at the end' : `, at character ${trial.trouble.from + 1}`}
        </p>
      ) : (
        // The line is there before it says anything, so that nothing below it moves under the pointer.
        <p className={styles.hint}>
          {trial.first.length === 0
            ? '\u00a0'
            : `gives ${trial.first.map((one) => (one === '' ? 'blank' : one)).join(' · ')}`}
        </p>
      )}
      <div className={styles.chips}>
        {names.map((name) => (
          <button key={name} type="button" onClick={() => field.current?.insert(columnText(name))}>
            {name}
          </button>
        ))}
      </div>
      <details>
        <summary className={styles.hint}>Functions</summary>
        <div className={styles.chips}>
          {FUNCTIONS.map((one) => (
            <button
              key={one.name}
              type="button"
              title={`${one.about} ${one.example[0]} gives ${one.example[1]}`}
              onClick={() => field.current?.insert(`${one.name}()`)}
            >
              {one.name}
            </button>
          ))}
        </div>
      </details>
    </div>
  );
}
