import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import type { ComponentType } from 'react';
import type { Editor } from '../../../core/index.ts';
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
  return (
    <div className={styles.stack}>
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
            aria-label={`Take number ${k + 1} away`}
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
    </div>
  );
}
