import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import { grouped, type PatternedType, type PatternFit } from '../../../core/index.ts';
import type { SentenceContext } from './context.ts';
import styles from './sentence.module.css';

interface Props {
  context: SentenceContext;
  type: PatternedType;
  columns: readonly string[];
  value: readonly string[];
  onChange(patterns: string[]): void;
}

/** Patterns of dates and times, with those that read the values to choose from. */
export function PatternsField({ context, type, columns, value, onChange }: Props) {
  const [fits, setFits] = useState<readonly PatternFit[]>([]);
  const [text, setText] = useState(value.join('\n'));
  const { ask } = context;
  const key = columns.join('\n');
  useEffect(() => {
    let current = true;
    void ask.patterns(key.split('\n'), type).then((found) => current && setFits(found));
    return () => {
      current = false;
    };
  }, [ask, key, type]);
  const put = (next: string) => {
    setText(next);
    onChange(next.split('\n').filter((line) => line.trim() !== ''));
  };
  const chosen = text.split('\n');
  return (
    <>
      <TextField
        label="Patterns, one a line"
        multiline
        value={text}
        placeholder={type === 'time' ? 'HH:mm' : 'dd/MM/yyyy'}
        helperText="y year, M month, d day, H hour, m minute, s second; none: ISO 8601"
        onChange={(event) => put(event.target.value)}
      />
      {fits.length > 0 && (
        <div className={styles.list} role="group" aria-label="Patterns that fit">
          {fits.slice(0, 6).map((one) => (
            <button
              key={one.pattern}
              type="button"
              className={styles.fit}
              aria-pressed={chosen.includes(one.pattern)}
              onClick={() =>
                put(
                  chosen.includes(one.pattern)
                    ? chosen.filter((line) => line !== one.pattern).join('\n')
                    : [...chosen.filter((line) => line !== ''), one.pattern].join('\n'),
                )
              }
            >
              <code>{one.pattern}</code>
              <span>
                {one.fits === one.of
                  ? `reads all ${grouped(one.of)}`
                  : `reads ${grouped(one.fits)} of ${grouped(one.of)}, not ${one.misfit}`}
              </span>
            </button>
          ))}
        </div>
      )}
    </>
  );
}
