import Button from '@mui/material/Button';
import type { RecordKinds } from '../../../core/index.ts';
import { CountField, LineList } from './fields.tsx';
import styles from './sentence.module.css';

interface Props {
  value: RecordKinds | null;
  onChange(value: RecordKinds | null): void;
}

/** Kinds of record by the text at a position; their cuts are set on the ruler. */
export function RecordsEditor({ value, onChange }: Props) {
  if (value === null) {
    return (
      <div className={styles.stack}>
        <p className={styles.hint}>
          All lines are cut alike. Where a text at one place tells kinds of line apart, each kind can have cuts of its
          own.
        </p>
        <Button variant="outlined" onClick={() => onChange({ at: 0, length: 1, kinds: [] })}>
          Tell kinds of record apart
        </Button>
      </div>
    );
  }
  const texts = value.kinds.map((kind) => kind.text);
  const kindsOf = (lines: readonly string[]) =>
    lines.map((text) => value.kinds.find((kind) => kind.text === text) ?? { text, cuts: [], names: [] });
  return (
    <div className={styles.stack}>
      <CountField
        label="The text begins at character"
        value={value.at + 1}
        least={1}
        most={10_000}
        onChange={(at) => onChange({ ...value, at: at - 1 })}
      />
      <CountField
        label="Characters"
        value={value.length}
        least={1}
        most={100}
        onChange={(length) => onChange({ ...value, length })}
      />
      <LineList
        label="Texts, one a line"
        hint="One text a line; the cuts of each kind are set on the ruler"
        value={texts}
        onChange={(lines) => onChange({ ...value, kinds: kindsOf(lines) })}
      />
      <Button onClick={() => onChange(null)}>Cut all lines alike</Button>
    </div>
  );
}
