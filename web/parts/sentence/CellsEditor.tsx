import { NamesEditor } from './ColumnSetEditor.tsx';
import { TextBox } from './fields.tsx';
import styles from './sentence.module.css';

/** What the cells of some columns read like; nothing: they are blank. */
export function CellsEditor({
  names,
  value,
  onChange,
}: {
  names: readonly string[];
  value: Readonly<Record<string, string | null>>;
  onChange(cells: Record<string, string | null>): void;
}) {
  return (
    <div className={styles.stack}>
      <NamesEditor
        names={names}
        value={Object.keys(value)}
        onChange={(chosen) => onChange(Object.fromEntries(chosen.map((name) => [name, value[name] ?? null])))}
      />
      {Object.entries(value).map(([name, cell]) => (
        <TextBox
          key={name}
          label={name}
          value={cell ?? ''}
          onChange={(text) => onChange({ ...value, [name]: text || null })}
        />
      ))}
    </div>
  );
}
