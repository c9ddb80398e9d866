import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ColumnSet } from '../../../core/index.ts';
import styles from './sentence.module.css';

const WAYS: Record<ColumnSet['by'], string> = {
  names: 'these columns',
  'all-but': 'all but these',
  all: 'all columns',
  starts: 'name starts with',
  ends: 'name ends with',
  contains: 'name contains',
  matches: 'name matches a pattern',
  year: 'name is a year',
  month: 'name is a month',
  blank: 'blank throughout',
  constant: 'one value throughout',
};

/** The same choice in another way, with what can be kept of it. */
function inAnotherWay(set: ColumnSet, by: ColumnSet['by']): ColumnSet {
  switch (by) {
    case 'names':
    case 'all-but':
      return { by, names: 'names' in set ? set.names : [] };
    case 'starts':
    case 'ends':
    case 'contains':
      return { by, text: 'text' in set ? set.text : '' };
    case 'matches':
      return { by, pattern: 'text' in set ? set.text : '' };
    default:
      return { by };
  }
}

interface Props {
  names: readonly string[];
  value: ColumnSet;
  onChange(value: ColumnSet): void;
}

export function ColumnSetEditor({ names, value, onChange }: Props) {
  return (
    <div className={styles.stack}>
      <TextField
        select
        value={value.by}
        slotProps={{ htmlInput: { 'aria-label': 'Which columns' } }}
        onChange={(event) => onChange(inAnotherWay(value, event.target.value as ColumnSet['by']))}
      >
        {Object.entries(WAYS).map(([by, words]) => (
          <MenuItem key={by} value={by}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      {'names' in value && (
        <NamesEditor names={names} value={value.names} onChange={(chosen) => onChange({ ...value, names: chosen })} />
      )}
      {'text' in value && (
        <TextField
          autoFocus
          value={value.text}
          slotProps={{ htmlInput: { 'aria-label': 'Text of the name' } }}
          onChange={(event) => onChange({ ...value, text: event.target.value })}
        />
      )}
      {'pattern' in value && (
        <TextField
          autoFocus
          value={value.pattern}
          slotProps={{ htmlInput: { 'aria-label': 'Pattern of the name' } }}
          onChange={(event) => onChange({ ...value, pattern: event.target.value })}
        />
      )}
    </div>
  );
}

/** Columns to tick; those that are named but gone stand last and can be unticked. */
export function NamesEditor({
  names,
  value,
  onChange,
}: {
  names: readonly string[];
  value: readonly string[];
  onChange(names: string[]): void;
}) {
  const gone = value.filter((name) => !names.includes(name));
  const toggle = (name: string) =>
    onChange(value.includes(name) ? value.filter((one) => one !== name) : [...value, name]);
  return (
    <div className={styles.list}>
      {[...names, ...gone].map((name) => (
        <label key={name} className={styles.option}>
          <Checkbox checked={value.includes(name)} onChange={() => toggle(name)} />
          {name}
          {gone.includes(name) && <em className={styles.hint}>not there</em>}
        </label>
      ))}
    </div>
  );
}
