import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { type ReactNode, useState } from 'react';
import type { ColumnSet, Editor, Rule, SetType, SheetSet } from '../../../core/index.ts';
import { ColumnPicker } from './ColumnPicker.tsx';
import { ColumnSetEditor, NamesEditor } from './ColumnSetEditor.tsx';
import type { SentenceContext } from './context.ts';
import { type Part, PartsEditor } from './PartsEditor.tsx';
import { RenamesEditor, type Renaming } from './RenamesEditor.tsx';
import { RuleEditor, RulesEditor } from './RuleEditor.tsx';
import { SheetsEditor } from './SheetsEditor.tsx';
import styles from './sentence.module.css';
import { TypesEditor } from './TypesEditor.tsx';

interface Props {
  edit: Editor;
  value: unknown;
  context: SentenceContext;
  onChange(value: unknown): void;
  onDone(): void;
}

/** The editor that suits a blank. Every valid change is applied at once; Done or Escape closes it. */
export function BlankEditor(props: Props) {
  return (
    <form
      className={styles.stack}
      onSubmit={(event) => {
        event.preventDefault();
        props.onDone();
      }}
    >
      <p className={styles.heading}>{props.edit.label}</p>
      {editorFor(props)}
      <div>
        <Button type="submit" variant="contained">
          Done
        </Button>
      </div>
    </form>
  );
}

function editorFor({ edit, value, context, onChange, onDone }: Props): ReactNode {
  const names = context.columns.map((column) => column.name);
  switch (edit.as) {
    case 'text':
      return <TextEditor edit={edit} value={(value ?? '') as string} onChange={onChange} />;
    case 'count':
      return (
        <TextField
          type="number"
          autoFocus
          defaultValue={value}
          slotProps={{ htmlInput: { min: edit.least, max: edit.most, 'aria-label': edit.label } }}
          onChange={(event) => {
            const count = Number(event.target.value);
            if (Number.isInteger(count) && count >= edit.least && count <= edit.most) onChange(count);
          }}
        />
      );
    case 'choice':
      return (
        <div className={styles.list} role="radiogroup" aria-label={edit.label}>
          {edit.choices.map((choice) => (
            <label key={String(choice.value)} className={styles.option}>
              <input
                type="radio"
                name="choice"
                checked={choice.value === value}
                onChange={() => {
                  onChange(choice.value);
                  onDone();
                }}
              />
              {choice.label}
            </label>
          ))}
        </div>
      );
    case 'column':
      return (
        <ColumnPicker
          label={edit.label}
          names={names}
          value={(value ?? null) as string | null}
          optional={edit.optional ?? false}
          onChange={(name) => onChange(name ?? undefined)}
        />
      );
    case 'names':
      return <NamesEditor names={names} value={(value ?? []) as string[]} onChange={onChange} />;
    case 'columns':
      return <ColumnSetEditor names={names} value={value as ColumnSet} onChange={onChange} />;
    case 'rule':
      return (
        <RuleEditor
          names={names}
          value={(value ?? null) as Rule | null}
          optional={edit.optional ?? false}
          onChange={onChange}
        />
      );
    case 'rules':
      return <RulesEditor names={names} value={value as Rule[]} onChange={onChange} />;
    case 'sheets':
      return <SheetsEditor sheets={context.sheets} value={value as SheetSet} onChange={onChange} />;
    case 'renames':
      return <RenamesEditor names={names} value={value as Renaming[]} onChange={onChange} />;
    case 'types':
      return <TypesEditor names={names} value={value as SetType[]} onChange={onChange} />;
    case 'parts':
      return <PartsEditor value={value as Part[]} onChange={onChange} />;
  }
}

function TextEditor({
  edit,
  value,
  onChange,
}: {
  edit: Extract<Editor, { as: 'text' }>;
  value: string;
  onChange(value: unknown): void;
}) {
  const [text, setText] = useState(value);
  return (
    <TextField
      autoFocus
      fullWidth
      value={text}
      helperText={edit.hint}
      onFocus={(event) => event.target.select()}
      slotProps={{ htmlInput: { 'aria-label': edit.label } }}
      onChange={(event) => {
        const next = event.target.value;
        setText(next);
        if (next !== '') onChange(next);
        else if (edit.optional) onChange(null);
      }}
    />
  );
}
