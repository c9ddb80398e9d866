import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';

/** One of several in a line of other things, as wide as its words. */
export function Choose<K extends string>({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: K;
  /** Values with the words that stand for them, in their order. */
  choices: readonly (readonly [K, string])[];
  onChange(value: K): void;
}) {
  return (
    <Select
      displayEmpty
      value={value}
      inputProps={{ 'aria-label': label }}
      sx={{ '& .MuiSelect-select': { paddingBlock: '2px', paddingInlineStart: '8px', fontSize: 12.5 }, maxWidth: 220 }}
      onChange={(event) => onChange(event.target.value as K)}
    >
      {choices.map(([key, words]) => (
        <MenuItem key={key} value={key}>
          {words}
        </MenuItem>
      ))}
    </Select>
  );
}
