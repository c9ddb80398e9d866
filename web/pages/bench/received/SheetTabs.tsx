import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import type { PartView } from '../../../engine/protocol.ts';
import styles from '../bench.module.css';

/** Past this many, sheets are found by typing. */
const MAX_TABS = 12;

/** One tab for each sheet, table or file of the report. */
export function SheetTabs({
  parts,
  part,
  onPart,
  onOnly,
  onOwn,
}: {
  parts: readonly PartView[];
  part: number;
  onPart(part: number): void;
  /** Reads only the sheet in sight; undefined where that is so, or cannot be. */
  onOnly?: (() => void) | undefined;
  /** Makes a table of the sheet in sight, which this one does not read. */
  onOwn?: (() => void) | undefined;
}) {
  if (parts.length > MAX_TABS) {
    return (
      <div className={styles.manySheets}>
        <Autocomplete
          disableClearable
          fullWidth
          options={parts.map((_, k) => k)}
          value={part}
          getOptionLabel={(k) => `${parts[k]!.name}${parts[k]!.hidden ? ' (hidden)' : ''}`}
          onChange={(_, k) => onPart(k)}
          renderInput={(params) => <TextField {...params} label="Sheet" />}
        />
        <button type="button" aria-label="The sheet before" disabled={part === 0} onClick={() => onPart(part - 1)}>
          ‹
        </button>
        <button
          type="button"
          aria-label="The next sheet"
          disabled={part === parts.length - 1}
          onClick={() => onPart(part + 1)}
        >
          ›
        </button>
        <span>
          {part + 1} of {parts.length}
        </span>
      </div>
    );
  }
  return (
    <div className={styles.sheets}>
      <div className={styles.tabs} role="tablist" aria-label="Sheets">
        {parts.map((one, k) => (
          <button key={one.name} type="button" role="tab" aria-selected={k === part} onClick={() => onPart(k)}>
            {one.name}
            {one.hidden && ' (hidden)'}
          </button>
        ))}
      </div>
      {onOwn !== undefined && (
        <button type="button" className={styles.only} onClick={onOwn}>
          Make a table of {parts[part]?.name}
        </button>
      )}
      {onOnly !== undefined && (
        <button type="button" className={styles.only} onClick={onOnly}>
          Read only {parts[part]?.name}
        </button>
      )}
    </div>
  );
}
