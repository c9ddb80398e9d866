import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Radio from '@mui/material/Radio';
import TextField from '@mui/material/TextField';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import type { ColumnSet, Editor, NameSet, RecordKinds, Rule, SetType } from '../../../core/index.ts';
import { CellsEditor } from './CellsEditor.tsx';
import { ColumnPicker } from './ColumnPicker.tsx';
import { ColumnSetEditor, NamesEditor } from './ColumnSetEditor.tsx';
import type { SentenceContext } from './context.ts';
import { ExpressionEditor } from './ExpressionEditor.tsx';
import { CountField, LineList, Picker, TextBox } from './fields.tsx';
import { ItemsEditor } from './ItemsEditor.tsx';
import { type Part, PartsEditor } from './PartsEditor.tsx';
import { RecordsEditor } from './RecordsEditor.tsx';
import { RenamesEditor, type Renaming } from './RenamesEditor.tsx';
import { RuleEditor, RulesEditor } from './RuleEditor.tsx';
import { SheetsEditor } from './SheetsEditor.tsx';
import styles from './sentence.module.css';
import { TypesEditor } from './TypesEditor.tsx';

interface FieldProps {
  edit: Editor;
  value: unknown;
  context: SentenceContext;
  onChange(value: unknown): void;
}

/** The editor that suits a blank. Every valid change is applied at once; Done or Escape closes it. */
export function BlankEditor(props: FieldProps & { onDone(): void }) {
  const { edit, context, value, onChange } = props;
  const take = useRef<(name: string) => void>(() => undefined);
  take.current = (name) => {
    if (context.columns.some((column) => column.name === name)) onChange(withColumn(edit, value, name));
  };
  const picks = picksColumns(edit);
  const { picking } = context;
  useEffect(() => {
    if (!picks) return;
    picking((name) => take.current(name));
    return () => picking(undefined);
  }, [picks, picking]);
  return (
    <form
      className={styles.stack}
      onSubmit={(event) => {
        event.preventDefault();
        props.onDone();
      }}
    >
      <p className={styles.heading}>{props.edit.label}</p>
      {picks && <p className={styles.hint}>Click on columns of the sheet, or choose here.</p>}
      {props.edit.as === 'choice' ? <Choices {...props} edit={props.edit} /> : <FieldEditor {...props} alone />}
      <div>
        <Button type="submit" variant="contained">
          Done
        </Button>
      </div>
    </form>
  );
}

/** Whether columns can be picked in the sheet while the blank is open. */
export function picksColumns(edit: Editor): boolean {
  return edit.as === 'column' || edit.as === 'names' || edit.as === 'columns';
}

/** The value of a blank for columns after a column was clicked on: there it goes, or comes. */
function withColumn(edit: Editor, value: unknown, name: string): unknown {
  if (edit.as === 'column') return name;
  const toggled = (names: readonly string[]) =>
    names.includes(name) ? names.filter((one) => one !== name) : [...names, name];
  if (edit.as === 'names') return toggled((value ?? []) as string[]);
  const set = value as ColumnSet | null;
  return set !== null && 'names' in set ? { ...set, names: toggled(set.names) } : { by: 'names', names: [name] };
}

/** One editor, alone in its popover or as a field of an item. */
export function FieldEditor({
  edit,
  value,
  context,
  onChange,
  alone = false,
}: FieldProps & { alone?: boolean }): ReactNode {
  const names = context.columns.map((column) => column.name);
  switch (edit.as) {
    case 'text':
      return alone ? (
        <TextEditor edit={edit} value={(value ?? '') as string} onChange={onChange} />
      ) : (
        <TextBox
          label={edit.label}
          value={(value ?? '') as string}
          onChange={(text) =>
            (text !== '' || edit.optional || edit.blank !== undefined) && onChange(text === '' ? edit.blank : text)
          }
        />
      );
    case 'count':
      return (
        <CountField
          label={edit.label}
          value={value as number}
          least={edit.least}
          most={edit.most}
          onChange={onChange}
        />
      );
    case 'figure':
      return (
        <TextField
          autoFocus
          fullWidth
          defaultValue={value === null ? '' : String(value)}
          placeholder={edit.optional ? 'open' : undefined}
          slotProps={{ htmlInput: { 'aria-label': edit.label, inputMode: 'decimal' } }}
          onChange={(event) => {
            const text = event.target.value.trim();
            if (text === '' && edit.optional) onChange(null);
            else if (text !== '' && Number.isFinite(Number(text))) onChange(Number(text));
          }}
        />
      );
    case 'choice': {
      const words = Object.fromEntries(edit.choices.map((choice) => [String(choice.value), choice.label]));
      return (
        <Picker
          label={edit.label}
          value={String(value)}
          choices={words}
          onChange={(key) => onChange(edit.choices.find((choice) => String(choice.value) === key)?.value)}
        />
      );
    }
    case 'several':
      return <NamesEditor names={edit.choices} value={value as string[]} onChange={onChange} />;
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
      return <ColumnsEditor edit={edit} names={names} value={value as ColumnSet | null} onChange={onChange} />;
    case 'rule':
      return (
        <RuleEditor
          Field={FieldEditor}
          context={context}
          value={(value ?? null) as Rule | null}
          optional={edit.optional ?? false}
          onChange={onChange}
        />
      );
    case 'rules':
      return <RulesEditor Field={FieldEditor} context={context} value={value as Rule[]} onChange={onChange} />;
    case 'cells':
      return <CellsEditor names={names} value={value as Readonly<Record<string, string | null>>} onChange={onChange} />;
    case 'items':
      return (
        <ItemsEditor
          Field={FieldEditor}
          edit={edit}
          value={value as Record<string, unknown>[]}
          context={context}
          onChange={onChange}
        />
      );
    case 'lines':
      return <LineList label={edit.label} hint={edit.hint} value={value as string[]} onChange={onChange} />;
    case 'numbers':
      return (
        <TextBox
          label={edit.label}
          hint="Whole numbers with commas between"
          value={(value as number[]).join(', ')}
          onChange={(text) => onChange((text.match(/\d+/g) ?? []).map(Number).filter((n) => n > 0))}
        />
      );
    case 'cuts':
      return (
        <TextBox
          label={edit.label}
          hint="Counted from 1, with commas between"
          value={(value as number[]).map((cut) => cut + 1).join(', ')}
          onChange={(text) => onChange((text.match(/\d+/g) ?? []).map((n) => Number(n) - 1).filter((n) => n > 0))}
        />
      );
    case 'records':
      return <RecordsEditor value={(value ?? null) as RecordKinds | null} onChange={onChange} />;
    case 'expression':
      return <ExpressionEditor context={context} value={value as string} onChange={onChange} />;
    case 'table':
      return <TablePicker context={context} value={value as string} onChange={onChange} />;
    case 'set':
      return (
        <Picker
          label={edit.label}
          value={value as string}
          choices={Object.fromEntries(context.sets.map((set) => [set.id, set.name]))}
          onChange={onChange}
        />
      );
    case 'tables':
      return <TablesEditor context={context} value={value as string[]} onChange={onChange} />;
    case 'sheets':
      return <SheetsEditor sheets={context.sheets} value={value as NameSet} onChange={onChange} />;
    case 'renames':
      return <RenamesEditor names={names} value={value as Renaming[]} onChange={onChange} />;
    case 'types':
      return <TypesEditor context={context} value={value as SetType[]} onChange={onChange} />;
    case 'parts':
      return <PartsEditor value={value as Part[]} onChange={onChange} />;
  }
}

function Choices({
  edit,
  value,
  onChange,
  onDone,
}: FieldProps & { edit: Extract<Editor, { as: 'choice' }>; onDone(): void }) {
  return (
    <div className={styles.list} role="radiogroup" aria-label={edit.label}>
      {edit.choices.map((choice) => (
        <label key={String(choice.value)} className={styles.option}>
          <Radio
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
        else if (edit.blank !== undefined) onChange(edit.blank);
        else if (edit.optional) onChange(null);
      }}
    />
  );
}

function ColumnsEditor({
  edit,
  names,
  value,
  onChange,
}: {
  edit: Extract<Editor, { as: 'columns' }>;
  names: readonly string[];
  value: ColumnSet | null;
  onChange(value: unknown): void;
}) {
  if (value === null) {
    return (
      <Button variant="outlined" onClick={() => onChange({ by: 'names', names: [] })}>
        Choose columns
      </Button>
    );
  }
  return (
    <div className={styles.stack}>
      <ColumnSetEditor names={names} value={value} onChange={onChange} />
      {edit.optional && <Button onClick={() => onChange(null)}>Leave it blank</Button>}
    </div>
  );
}

function TablePicker({
  context,
  value,
  onChange,
}: {
  context: SentenceContext;
  value: string;
  onChange(value: string): void;
}) {
  if (context.tables.length === 0)
    return <p className={styles.hint}>The job has no other table yet. Add one with + beside the tables above.</p>;
  const choices = Object.fromEntries([
    ...(context.tables.some((table) => table.id === value) ? [] : [[value, 'choose a table']]),
    ...context.tables.map((table) => [table.id, table.name]),
  ]);
  return <Picker label="Table" value={value} choices={choices} onChange={onChange} />;
}

function TablesEditor({
  context,
  value,
  onChange,
}: {
  context: SentenceContext;
  value: readonly string[];
  onChange(value: string[]): void;
}) {
  if (context.tables.length === 0)
    return <p className={styles.hint}>The job has no other table yet. Add one with + beside the tables above.</p>;
  const toggle = (id: string) => onChange(value.includes(id) ? value.filter((one) => one !== id) : [...value, id]);
  return (
    <div className={styles.list}>
      {context.tables.map((table) => (
        <label key={table.id} className={styles.option}>
          <Checkbox checked={value.includes(table.id)} onChange={() => toggle(table.id)} />
          {table.name}
        </label>
      ))}
    </div>
  );
}
