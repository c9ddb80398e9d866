import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { NameSet } from '../../../core/index.ts';
import { NamesEditor } from './ColumnSetEditor.tsx';
import styles from './sentence.module.css';

interface Props {
  sheets: readonly string[];
  value: NameSet;
  onChange(value: NameSet): void;
}

export function SheetsEditor({ sheets, value, onChange }: Props) {
  const by = (way: NameSet['by']) => {
    if (way === 'all') onChange({ by: 'all' });
    else if (way === 'names') onChange({ by: 'names', names: [...sheets] });
    else onChange({ by: 'matches', pattern: '.*' });
  };
  return (
    <div className={styles.stack}>
      <TextField
        select
        value={value.by}
        slotProps={{ htmlInput: { 'aria-label': 'Which sheets' } }}
        onChange={(event) => by(event.target.value as NameSet['by'])}
      >
        <MenuItem value="all">all sheets</MenuItem>
        <MenuItem value="names">these sheets</MenuItem>
        <MenuItem value="matches">all whose name matches a pattern</MenuItem>
      </TextField>
      {value.by === 'names' && (
        <NamesEditor
          names={sheets}
          value={value.names}
          onChange={(names) => names.length > 0 && onChange({ by: 'names', names })}
        />
      )}
      {value.by === 'matches' && (
        <TextField
          defaultValue={value.pattern}
          slotProps={{ htmlInput: { 'aria-label': 'Pattern of the name' } }}
          onChange={(event) => onChange({ by: 'matches', pattern: event.target.value })}
        />
      )}
    </div>
  );
}
