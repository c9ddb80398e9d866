import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import { ColumnPicker } from './ColumnPicker.tsx';
import styles from './sentence.module.css';

export interface Renaming {
  from: string;
  to: string;
}

interface Props {
  names: readonly string[];
  value: readonly Renaming[];
  onChange(value: Renaming[]): void;
}

export function RenamesEditor({ names, value, onChange }: Props) {
  const put = (k: number, next: Renaming) => onChange(value.map((one, other) => (other === k ? next : one)));
  return (
    <div className={styles.stack}>
      {value.map((renaming, k) => (
        <div key={k} className={styles.row}>
          <ColumnPicker
            label="Old name"
            names={names}
            value={renaming.from}
            optional={false}
            onChange={(from) => put(k, { ...renaming, from: from ?? '' })}
          />
          <TextField
            autoFocus={k === value.length - 1}
            defaultValue={renaming.to}
            onFocus={(event) => event.target.select()}
            slotProps={{ htmlInput: { 'aria-label': 'New name' } }}
            onChange={(event) => event.target.value.trim() !== '' && put(k, { ...renaming, to: event.target.value })}
          />
          {value.length > 1 && (
            <IconButton
              size="small"
              aria-label="Remove this name"
              onClick={() => onChange(value.filter((_, other) => other !== k))}
            >
              <Close fontSize="inherit" />
            </IconButton>
          )}
        </div>
      ))}
      <Button variant="outlined" onClick={() => onChange([...value, { from: names[0] ?? '', to: names[0] ?? 'Name' }])}>
        Another column
      </Button>
    </div>
  );
}
