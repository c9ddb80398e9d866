import styles from './received.module.css';
import type { Reading } from './use-reading.ts';

const DELIMITERS: readonly [string, string][] = [
  [',', 'comma'],
  [';', 'semicolon'],
  ['\t', 'tab'],
  ['|', 'bar'],
  [' ', 'blank'],
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
        <input
          type="checkbox"
          checked={params['runs'] === true}
          onChange={(event) => change('runs of the delimiter', { runs: event.target.checked })}
        />
        runs as one
      </label>
      <label>
        quote
        <select
          aria-label="Quote"
          value={String(params['quote'] ?? '')}
          onChange={(event) => change('quote', { quote: event.target.value === '' ? null : event.target.value })}
        >
          <option value={'"'}>"</option>
          <option value="'">'</option>
          <option value="">none</option>
        </select>
      </label>
      <label>
        <select
          aria-label="Encoding"
          value={String(params['encoding'] ?? '')}
          onChange={(event) => change('encoding', { encoding: event.target.value === '' ? null : event.target.value })}
        >
          <option value="">encoding guessed</option>
          {[...new Set([...ENCODINGS, ...(params['encoding'] ? [String(params['encoding'])] : [])])].map((label) => (
            <option key={label}>{label}</option>
          ))}
        </select>
      </label>
    </div>
  );
}
