import Checkbox from '@mui/material/Checkbox';
import { Choose } from '../../../parts/Choose.tsx';
import styles from './received.module.css';
import type { Reading } from './use-reading.ts';

const DELIMITERS: readonly [string, string][] = [
  [',', 'comma'],
  [';', 'semicolon'],
  ['\t', 'tab'],
  ['|', 'bar'],
  [' ', 'space'],
];
const ENCODINGS = [
  'utf-8',
  'windows-1252',
  'iso-8859-2',
  'iso-8859-15',
  'windows-1251',
  'utf-16le',
  'utf-16be',
  'macintosh',
  'shift_jis',
  'gb18030',
];

/** How the text is divided, with the outcome in sight below and on the tidy page. */
export function DelimitedStrip({ reading }: { reading: Reading }) {
  const { params, change } = reading;
  const delimiter = String(params['delimiter'] ?? ',');
  const other = !DELIMITERS.some(([sign]) => sign === delimiter);
  const encoding = String(params['encoding'] ?? '');
  return (
    <div className={styles.form} role="group" aria-label="How the text is divided">
      <span className={styles.choices} role="radiogroup" aria-label="Delimiter">
        {DELIMITERS.map(([sign, name]) => (
          <button
            key={name}
            type="button"
            role="radio"
            aria-checked={sign === delimiter}
            onClick={() => change(`divide by ${name}`, { delimiter: sign })}
          >
            {name}
          </button>
        ))}
        <input
          aria-label="Another delimiter"
          placeholder="other"
          value={other ? delimiter : ''}
          size={4}
          onChange={(event) =>
            event.target.value !== '' &&
            change('divide by another delimiter', { delimiter: event.target.value }, 'delimiter')
          }
        />
      </span>
      <label>
        <Checkbox
          checked={params['runs'] === true}
          onChange={(event) => change('runs of the delimiter', { runs: event.target.checked })}
        />
        runs as one
      </label>
      <label>
        quote
        <Choose
          label="Quote"
          value={String(params['quote'] ?? '')}
          choices={[
            ['"', '"'],
            ["'", "'"],
            ['', 'none'],
          ]}
          onChange={(quote) => change('quote', { quote: quote === '' ? null : quote })}
        />
      </label>
      <Choose
        label="Encoding"
        value={encoding}
        choices={[
          ['', 'encoding guessed'],
          ...[...new Set([...ENCODINGS, ...(encoding === '' ? [] : [encoding])])].map((one) => [one, one] as const),
        ]}
        onChange={(one) => change('encoding', { encoding: one === '' ? null : one })}
      />
    </div>
  );
}
