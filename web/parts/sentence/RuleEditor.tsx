import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { PlainRule, Rule } from '../../../core/index.ts';
import { ColumnPicker } from './ColumnPicker.tsx';
import { ColumnSetEditor, NamesEditor } from './ColumnSetEditor.tsx';
import styles from './sentence.module.css';

type Test = PlainRule['test'];

const TESTS: Record<Test, string> = {
  equals: 'is',
  starts: 'starts with',
  ends: 'ends with',
  contains: 'contains',
  matches: 'matches a pattern',
  only: 'only these cells are filled',
  empty: 'the whole row is blank',
  blank: 'cells are blank',
  filled: 'cells are filled',
  unreadable: 'cells are unreadable',
};

function withTest(rule: PlainRule, test: Test, names: readonly string[]): PlainRule {
  const column = 'column' in rule ? rule.column : (names[0] ?? '');
  switch (test) {
    case 'empty':
      return { test };
    case 'only':
      return { test, columns: 'column' in rule ? [rule.column] : [] };
    case 'blank':
    case 'filled':
    case 'unreadable':
      return { test, columns: { by: 'names', names: [column] } };
    default:
      return { test, column, text: 'text' in rule ? rule.text : '' };
  }
}

function PlainRuleEditor({
  names,
  value,
  onChange,
}: {
  names: readonly string[];
  value: PlainRule;
  onChange(rule: PlainRule): void;
}) {
  return (
    <div className={styles.stack}>
      {'column' in value && (
        <ColumnPicker
          label="Column"
          names={names}
          value={value.column}
          optional={false}
          onChange={(column) => onChange({ ...value, column: column ?? '' })}
        />
      )}
      <TextField
        select
        value={value.test}
        slotProps={{ htmlInput: { 'aria-label': 'Test' } }}
        onChange={(event) => onChange(withTest(value, event.target.value as Test, names))}
      >
        {Object.entries(TESTS).map(([test, words]) => (
          <MenuItem key={test} value={test}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      {'text' in value && (
        <TextField
          value={value.text}
          placeholder="text"
          slotProps={{ htmlInput: { 'aria-label': 'Text' } }}
          onChange={(event) => onChange({ ...value, text: event.target.value })}
        />
      )}
      {value.test === 'only' && (
        <NamesEditor names={names} value={value.columns} onChange={(columns) => onChange({ test: 'only', columns })} />
      )}
      {(value.test === 'blank' || value.test === 'filled' || value.test === 'unreadable') && (
        <ColumnSetEditor names={names} value={value.columns} onChange={(columns) => onChange({ ...value, columns })} />
      )}
    </div>
  );
}

type Place = 'here' | 'above-first' | 'below-last';

const PLACES: Record<Place, string> = {
  here: 'rows where',
  'above-first': 'all above the first row where',
  'below-last': 'all below the last row where',
};

function inPlace(rule: Rule, place: Place): Rule {
  const row = 'row' in rule ? rule.row : rule;
  return place === 'here' ? row : { test: place, row, ...('within' in rule ? { within: rule.within } : {}) };
}

/** A rule with where it is looked for. */
function PlacedRuleEditor({
  names,
  value,
  onChange,
}: {
  names: readonly string[];
  value: Rule;
  onChange(rule: Rule): void;
}) {
  const place: Place = 'row' in value ? value.test : 'here';
  return (
    <div className={styles.stack}>
      <TextField
        select
        value={place}
        slotProps={{ htmlInput: { 'aria-label': 'Which rows' } }}
        onChange={(event) => onChange(inPlace(value, event.target.value as Place))}
      >
        {Object.entries(PLACES).map(([key, words]) => (
          <MenuItem key={key} value={key}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      {'row' in value ? (
        <>
          <PlainRuleEditor names={names} value={value.row} onChange={(row) => onChange({ ...value, row })} />
          <p className={styles.heading}>Looked for in each</p>
          <ColumnPicker
            label="Looked for in each"
            names={names}
            value={value.within ?? null}
            optional
            onChange={(within) => onChange({ ...value, within: within ?? undefined })}
          />
        </>
      ) : (
        <PlainRuleEditor names={names} value={value} onChange={onChange} />
      )}
    </div>
  );
}

const fresh = (names: readonly string[]): PlainRule => ({ test: 'equals', column: names[0] ?? '', text: '' });

export function RuleEditor({
  names,
  value,
  optional,
  onChange,
}: {
  names: readonly string[];
  value: Rule | null;
  optional: boolean;
  onChange(rule: Rule | null): void;
}) {
  if (value === null || 'row' in value) {
    return (
      <div className={styles.stack}>
        <p className={styles.hint}>The first row of the table.</p>
        <Button variant="outlined" onClick={() => onChange(fresh(names))}>
          Find it by what stands in it
        </Button>
      </div>
    );
  }
  return (
    <div className={styles.stack}>
      <PlainRuleEditor names={names} value={value} onChange={onChange} />
      {optional && <Button onClick={() => onChange(null)}>Take the first row instead</Button>}
    </div>
  );
}

export function RulesEditor({
  names,
  value,
  onChange,
}: {
  names: readonly string[];
  value: readonly Rule[];
  onChange(rules: Rule[]): void;
}) {
  return (
    <div className={styles.stack}>
      {value.map((rule, k) => (
        <div key={k} className={styles.box}>
          <div className={styles.row}>
            <span className={styles.heading}>{k === 0 ? 'Set aside' : 'or'}</span>
            {value.length > 1 && (
              <IconButton
                size="small"
                aria-label="Take this rule away"
                onClick={() => onChange(value.filter((_, other) => other !== k))}
              >
                <Close fontSize="inherit" />
              </IconButton>
            )}
          </div>
          <PlacedRuleEditor
            names={names}
            value={rule}
            onChange={(next) => onChange(value.map((one, other) => (other === k ? next : one)))}
          />
        </div>
      ))}
      <Button variant="outlined" onClick={() => onChange([...value, fresh(names)])}>
        Or another rule
      </Button>
    </div>
  );
}
