import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import styles from './sentence.module.css';

export type Part = { as: 'column'; name: string } | { as: 'each' };

/** What each part of a split name becomes: a column that takes it, or one column for each different text. */
export function PartsEditor({ value, onChange }: { value: readonly Part[]; onChange(parts: Part[]): void }) {
  const put = (k: number, part: Part) => onChange(value.map((one, other) => (other === k ? part : one)));
  const hasEach = value.some((part) => part.as === 'each');
  return (
    <div className={styles.stack}>
      {value.map((part, k) => (
        <div key={k} className={styles.row}>
          <TextField
            select
            value={part.as}
            slotProps={{ htmlInput: { 'aria-label': `Part ${k + 1} becomes` } }}
            onChange={(event) =>
              put(k, event.target.value === 'each' ? { as: 'each' } : { as: 'column', name: `Name ${k + 1}` })
            }
          >
            <MenuItem value="column">a column named</MenuItem>
            <MenuItem value="each" disabled={hasEach && part.as !== 'each'}>
              one column each
            </MenuItem>
          </TextField>
          {part.as === 'column' && (
            <TextField
              defaultValue={part.name}
              slotProps={{ htmlInput: { 'aria-label': `Name of part ${k + 1}` } }}
              onChange={(event) => event.target.value !== '' && put(k, { as: 'column', name: event.target.value })}
            />
          )}
          {value.length > 1 && (
            <IconButton
              size="small"
              aria-label={`Remove part ${k + 1}`}
              onClick={() => onChange(value.filter((_, other) => other !== k))}
            >
              <Close fontSize="inherit" />
            </IconButton>
          )}
        </div>
      ))}
      <Button
        variant="outlined"
        onClick={() => onChange([...value, { as: 'column', name: `Name ${value.length + 1}` }])}
      >
        Another part
      </Button>
    </div>
  );
}
