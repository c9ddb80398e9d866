import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type SetType, TYPE_WORDS } from '../../../core/index.ts';
import { ColumnSetEditor } from './ColumnSetEditor.tsx';
import type { SentenceContext } from './context.ts';
import { PatternsField } from './PatternsField.tsx';
import styles from './sentence.module.css';

interface Props {
  context: SentenceContext;
  value: readonly SetType[];
  onChange(value: SetType[]): void;
}

export function TypesEditor({ context, value, onChange }: Props) {
  const names = context.columns.map((column) => column.name);
  const put = (k: number, next: SetType) => onChange(value.map((one, other) => (other === k ? next : one)));
  return (
    <div className={styles.stack}>
      {value.map((set, k) => (
        <div key={k} className={styles.box}>
          <div className={styles.row}>
            <TextField
              select
              value={set.type}
              slotProps={{ htmlInput: { 'aria-label': 'Type' } }}
              onChange={(event) => put(k, { columns: set.columns, type: event.target.value as SetType['type'] })}
            >
              {Object.entries(TYPE_WORDS).map(([type, words]) => (
                <MenuItem key={type} value={type}>
                  {words}
                </MenuItem>
              ))}
            </TextField>
            {value.length > 1 && (
              <IconButton
                size="small"
                aria-label="Remove this type"
                onClick={() => onChange(value.filter((_, other) => other !== k))}
              >
                <Close fontSize="inherit" />
              </IconButton>
            )}
          </div>
          <ColumnSetEditor names={names} value={set.columns} onChange={(columns) => put(k, { ...set, columns })} />
          {(set.type === 'number' || set.type === 'whole') && (
            <TextField
              select
              label="Decimal mark"
              value={set.number?.decimal ?? '.'}
              onChange={(event) =>
                put(k, { ...set, number: { grouping: 'any', ...set.number, decimal: event.target.value as '.' | ',' } })
              }
            >
              <MenuItem value=".">point (1,234.5)</MenuItem>
              <MenuItem value=",">comma (1.234,5)</MenuItem>
            </TextField>
          )}
          {(set.type === 'date' || set.type === 'time' || set.type === 'datetime') && (
            <PatternsField
              context={context}
              type={set.type}
              columns={'names' in set.columns && set.columns.by === 'names' ? set.columns.names : names}
              value={set.patterns ?? []}
              onChange={(patterns) => put(k, { ...set, patterns: patterns.length === 0 ? undefined : patterns })}
            />
          )}
          {(set.type === 'datetime' || set.type === 'time') && (
            <TextField
              label="Time zone"
              placeholder="as written"
              helperText="UTC, +01:00 or Europe/Lisbon, for times that end with an offset"
              value={set.zone ?? ''}
              onChange={(event) => put(k, { ...set, zone: event.target.value === '' ? undefined : event.target.value })}
            />
          )}
        </div>
      ))}
      <Button
        variant="outlined"
        onClick={() => onChange([...value, { columns: { by: 'names', names: [] }, type: 'text' }])}
      >
        And another type
      </Button>
    </div>
  );
}
