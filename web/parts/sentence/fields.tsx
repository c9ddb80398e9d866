/** The plain fields that the editors of blanks are made of. */
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';

export function Picker<K extends string>({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: K;
  choices: Readonly<Record<K, string>>;
  onChange(value: K): void;
}) {
  return (
    <TextField
      select
      fullWidth
      value={value}
      slotProps={{ htmlInput: { 'aria-label': label } }}
      onChange={(event) => onChange(event.target.value as K)}
    >
      {Object.entries<string>(choices).map(([key, words]) => (
        <MenuItem key={key} value={key}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** A line of text that keeps what is being typed, whatever comes back from above. */
export function TextBox({
  label,
  value,
  hint,
  onChange,
}: {
  label: string;
  value: string;
  hint?: string;
  onChange(value: string): void;
}) {
  const [text, setText] = useState(value);
  return (
    <TextField
      fullWidth
      value={text}
      placeholder={label}
      helperText={hint}
      slotProps={{ htmlInput: { 'aria-label': label } }}
      onChange={(event) => {
        setText(event.target.value);
        onChange(event.target.value);
      }}
    />
  );
}

/** Texts, one a line; blanks around them count. */
export function LineList({
  label,
  value,
  hint,
  onChange,
}: {
  label: string;
  value: readonly string[];
  hint?: string;
  onChange(value: string[]): void;
}) {
  const [text, setText] = useState(value.join('\n'));
  return (
    <TextField
      fullWidth
      multiline
      minRows={2}
      maxRows={10}
      value={text}
      helperText={hint}
      slotProps={{ htmlInput: { 'aria-label': label } }}
      onChange={(event) => {
        setText(event.target.value);
        onChange(event.target.value.split('\n').filter((line) => line !== ''));
      }}
    />
  );
}

export function CountField({
  label,
  value,
  least,
  most,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  onChange(value: number): void;
}) {
  return (
    <TextField
      type="number"
      fullWidth
      defaultValue={value}
      slotProps={{ htmlInput: { min: least, max: most, 'aria-label': label } }}
      onChange={(event) => {
        const count = Number(event.target.value);
        if (event.target.value !== '' && Number.isInteger(count) && count >= least && count <= most) onChange(count);
      }}
    />
  );
}
