import TextField from '@mui/material/TextField';
import { useRef, useState } from 'react';
import { FUNCTIONS } from '../../../core/index.ts';
import styles from './sentence.module.css';

/** SQL text, with the columns and functions beside it to put in at the cursor. */
export function ExpressionEditor({
  names,
  value,
  onChange,
}: {
  names: readonly string[];
  value: string;
  onChange(text: string): void;
}) {
  const [text, setText] = useState(value);
  const input = useRef<HTMLTextAreaElement>(null);
  const put = (next: string) => {
    setText(next);
    onChange(next);
  };
  const insert = (piece: string) => {
    const at = input.current?.selectionStart ?? text.length;
    put(text.slice(0, at) + piece + text.slice(input.current?.selectionEnd ?? at));
    input.current?.focus();
  };
  return (
    <div className={styles.stack}>
      <TextField
        autoFocus
        multiline
        minRows={3}
        value={text}
        inputRef={input}
        slotProps={{ htmlInput: { 'aria-label': 'Expression', spellCheck: false, className: styles.mono } }}
        onChange={(event) => put(event.target.value)}
      />
      <div className={styles.chips}>
        {names.map((name) => (
          <button
            key={name}
            type="button"
            onClick={() => insert(/^[a-z_][a-z\d_]*$/i.test(name) ? name : `"${name.replaceAll('"', '""')}"`)}
          >
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
              onClick={() => insert(`${one.name}()`)}
            >
              {one.name}
            </button>
          ))}
        </div>
      </details>
    </div>
  );
}
