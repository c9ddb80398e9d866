import Autocomplete from '@mui/material/Autocomplete';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';

export function ColumnPicker({
  label,
  names,
  value,
  optional,
  onChange,
}: {
  label: string;
  names: readonly string[];
  value: string | null;
  optional: boolean;
  onChange(name: string | null): void;
}) {
  const shown = optional ? ['', ...names] : [...names];
  if (names.length > 12) {
    return (
      <Autocomplete
        options={[...names]}
        value={value === '' ? null : value}
        onChange={(_, name) => {
          if (name !== null || optional) onChange(name);
        }}
        renderInput={(params) => <TextField {...params} placeholder={label} />}
      />
    );
  }
  return (
    <TextField
      select
      fullWidth
      value={value ?? ''}
      slotProps={{ select: { displayEmpty: optional }, htmlInput: { 'aria-label': label } }}
      onChange={(event) => onChange(event.target.value === '' ? null : event.target.value)}
    >
      {value !== null && value !== '' && !names.includes(value) && (
        <MenuItem value={value} disabled>
          {value} (not there)
        </MenuItem>
      )}
      {shown.map((name) => (
        <MenuItem key={name} value={name}>
          {name === '' ? 'none' : name}
        </MenuItem>
      ))}
    </TextField>
  );
}
