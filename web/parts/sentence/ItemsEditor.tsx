import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { type ClipboardEvent, type ComponentType, useState } from 'react';
import { type Editor, grouped, itemsFromText } from '../../../core/index.ts';
import { pickFile } from '../files.ts';
import type { SentenceContext } from './context.ts';
import styles from './sentence.module.css';

type Item = Record<string, unknown>;

interface Props {
  edit: Extract<Editor, { as: 'items' }>;
  value: readonly Item[];
  context: SentenceContext;
  onChange(value: Item[]): void;
  /** The editor of one field; handed in, as a field may be a list of items itself. */
  Field: ComponentType<{ edit: Editor; value: unknown; context: SentenceContext; onChange(value: unknown): void }>;
}

/** A list of objects, each edited by the same few fields. */
export function ItemsEditor({ edit, value, context, onChange, Field }: Props) {
  const put = (k: number, key: string, field: unknown) =>
    onChange(value.map((item, other) => (other === k ? { ...item, [key]: field ?? undefined } : item)));
  const textual = edit.fields.length > 1 && edit.fields.every((field) => field.edit.as === 'text');
  const [told, setTold] = useState('');
  const takeTable = (text: string) => {
    const items = itemsFromText(
      text,
      edit.fields.map((field) => field.key),
    ).map((item) => ({ ...edit.fresh, ...item }));
    if (items.length === 0) {
      setTold(`Nothing taken: ${edit.fields.length} columns were expected.`);
      return;
    }
    // What stands for the same first text is taken again; empty beginnings go.
    const key = edit.fields[0]!.key;
    const taken = new Set(items.map((item) => item[key]));
    onChange([...value.filter((item) => item[key] !== '' && !taken.has(item[key] as string)), ...items]);
    setTold(`${grouped(items.length)} taken`);
  };
  const onPaste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData('text/plain');
    if (!textual || !/[\t\n]/.test(text.trim())) return;
    event.preventDefault();
    takeTable(text);
  };
  const fromFile = async () => {
    const file = await pickFile('.csv,.tsv,.txt');
    if (file !== undefined) takeTable(await file.text());
  };
  return (
    <div className={styles.stack} onPaste={onPaste}>
      {value.map((item, k) => (
        <div key={k} className={styles.items}>
          <div className={styles.fields}>
            {edit.fields
              .filter((field) => field.only === undefined || field.only.is.includes(item[field.only.key]))
              .map((field) => (
                <Field
                  key={field.key}
                  edit={field.edit}
                  value={item[field.key]}
                  context={context}
                  onChange={(next) => put(k, field.key, next)}
                />
              ))}
          </div>
          <IconButton
            size="small"
            aria-label={`Remove number ${k + 1}`}
            disabled={value.length === 1}
            onClick={() => onChange(value.filter((_, other) => other !== k))}
          >
            <Close fontSize="inherit" />
          </IconButton>
        </div>
      ))}
      <Button variant="outlined" onClick={() => onChange([...value, { ...edit.fresh }])}>
        One more
      </Button>
      {textual && (
        <>
          <Button onClick={() => void fromFile()}>From a file</Button>
          <p className={styles.hint} role="status">
            {told === '' ? 'Two columns copied from a spreadsheet can be pasted into any of these fields.' : told}
          </p>
        </>
      )}
    </div>
  );
}
