import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import type { PlainRule, Rule } from '../../../core/index.ts';
import { ColumnPicker } from './ColumnPicker.tsx';
import { ColumnSetEditor, NamesEditor } from './ColumnSetEditor.tsx';
import { CountField, LineList, Picker, TextBox } from './fields.tsx';
import styles from './sentence.module.css';

type Test = PlainRule['test'];
/** The rule of one test. */
type RuleOf<T extends Test> = Extract<PlainRule, { test: T }>;

const TESTS: Record<Test, string> = {
  equals: 'is',
  starts: 'starts with',
  ends: 'ends with',
  contains: 'contains',
  matches: 'matches a pattern',
  'one-of': 'is one of',
  between: 'is between',
  'date-part': 'has a date part that is',
  only: 'only these cells are filled',
  empty: 'the whole row is blank',
  blank: 'cells are blank',
  filled: 'cells are filled',
  unreadable: 'cells are unreadable',
  header: 'the row reads like the header',
  same: 'the row reads like an example',
  expression: 'a condition holds',
};

function columnOf(rule: PlainRule, names: readonly string[]): string {
  return 'column' in rule ? rule.column : (names[0] ?? '');
}

function withTest(rule: PlainRule, test: Test, names: readonly string[]): PlainRule {
  const column = columnOf(rule, names);
  const text = 'text' in rule ? rule.text : '';
  switch (test) {
    case 'empty':
    case 'header':
      return { test };
    case 'only':
      return { test, columns: 'column' in rule ? [rule.column] : [] };
    case 'blank':
    case 'filled':
    case 'unreadable':
      return { test, columns: { by: 'names', names: [column] } };
    case 'one-of':
      return { test, column, texts: text === '' ? [] : [text] };
    case 'between':
      return { test, column, least: null, most: null };
    case 'date-part':
      return { test, column, part: 'quarter', is: [1] };
    case 'same':
      return { test, cells: {} };
    case 'expression':
      return { test, text: `"${column}" is not null` };
    default:
      return { test, column, text };
  }
}

interface PlainProps {
  names: readonly string[];
  value: PlainRule;
  onChange(rule: PlainRule): void;
}

function PlainRuleEditor({ names, value, onChange }: PlainProps) {
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
      <Picker
        label="Test"
        value={value.test}
        choices={TESTS}
        onChange={(test) => onChange(withTest(value, test, names))}
      />
      <RuleRest names={names} value={value} onChange={onChange} />
    </div>
  );
}

/** What a test needs beside its column. */
function RuleRest({ names, value, onChange }: PlainProps) {
  switch (value.test) {
    case 'empty':
    case 'header':
      return null;
    case 'only':
      return (
        <NamesEditor names={names} value={value.columns} onChange={(columns) => onChange({ test: 'only', columns })} />
      );
    case 'blank':
    case 'filled':
    case 'unreadable':
      return (
        <ColumnSetEditor names={names} value={value.columns} onChange={(columns) => onChange({ ...value, columns })} />
      );
    case 'one-of':
      return (
        <LineList label="One of, one a line" value={value.texts} onChange={(texts) => onChange({ ...value, texts })} />
      );
    case 'between':
      return (
        <div className={styles.row}>
          <TextBox
            label="From"
            value={value.least ?? ''}
            onChange={(least) => onChange({ ...value, least: least || null })}
          />
          <TextBox
            label="To"
            value={value.most ?? ''}
            onChange={(most) => onChange({ ...value, most: most || null })}
          />
        </div>
      );
    case 'date-part':
      return <DatePartRule value={value} onChange={onChange} />;
    case 'same':
      return <SameRule names={names} value={value} onChange={onChange} />;
    default:
      return <TextBox label="Text" value={value.text} onChange={(text) => onChange({ ...value, text })} />;
  }
}

const PARTS = { year: 'year', quarter: 'quarter', month: 'month', week: 'ISO week', isodow: 'weekday (Monday 1)' };

function DatePartRule({ value, onChange }: { value: RuleOf<'date-part'>; onChange(rule: PlainRule): void }) {
  const numbers = (text: string) => (text.match(/\d+/g) ?? []).map(Number);
  return (
    <div className={styles.row}>
      <Picker
        label="Part of the date"
        value={value.part}
        choices={PARTS}
        onChange={(part) => onChange({ ...value, part })}
      />
      <TextBox
        label="Is, several with commas"
        value={value.is.join(', ')}
        onChange={(text) => onChange({ ...value, is: numbers(text) })}
      />
    </div>
  );
}

function SameRule({
  names,
  value,
  onChange,
}: {
  names: readonly string[];
  value: RuleOf<'same'>;
  onChange(rule: PlainRule): void;
}) {
  const without = (name: string) => Object.fromEntries(Object.entries(value.cells).filter(([one]) => one !== name));
  return (
    <div className={styles.stack}>
      <NamesEditor
        names={names}
        value={Object.keys(value.cells)}
        onChange={(chosen) =>
          onChange({ test: 'same', cells: Object.fromEntries(chosen.map((name) => [name, value.cells[name] ?? null])) })
        }
      />
      {Object.entries(value.cells).map(([name, cell]) => (
        <TextBox
          key={name}
          label={name}
          value={cell ?? ''}
          onChange={(text) => onChange({ test: 'same', cells: { ...without(name), [name]: text || null } })}
        />
      ))}
    </div>
  );
}

const PLACES = {
  here: 'rows where',
  'above-first': 'all above the first row where',
  'below-last': 'all below the last row where',
  'between-rows': 'from rows where … to the next where …',
  first: 'the first rows',
  last: 'the last rows',
  range: 'rows from … to …',
  every: 'every so many rows',
};
type Place = keyof typeof PLACES;

function placeOf(rule: Rule): Place {
  if (rule.test === 'place') return rule.which;
  return 'row' in rule ? rule.test : 'here';
}

function inPlace(rule: Rule, place: Place, names: readonly string[]): Rule {
  const row: PlainRule = 'row' in rule ? rule.row : rule.test === 'place' ? fresh(names) : rule;
  const within = 'within' in rule ? rule.within : undefined;
  switch (place) {
    case 'here':
      return row;
    case 'between-rows':
      return { test: place, row, until: row, within };
    case 'above-first':
    case 'below-last':
      return { test: place, row, within };
    default:
      return { test: 'place', which: place, from: 1, count: place === 'every' ? 2 : 1, within };
  }
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
  const placed = 'row' in value || value.test === 'place' ? value : undefined;
  return (
    <div className={styles.stack}>
      <Picker
        label="Which rows"
        value={placeOf(value)}
        choices={PLACES}
        onChange={(place) => onChange(inPlace(value, place, names))}
      />
      {placed === undefined && <PlainRuleEditor names={names} value={value as PlainRule} onChange={onChange} />}
      {placed !== undefined && placed.test !== 'place' && (
        <PlainRuleEditor names={names} value={placed.row} onChange={(row) => onChange({ ...placed, row })} />
      )}
      {placed?.test === 'between-rows' && (
        <>
          <p className={styles.heading}>to the next row where</p>
          <PlainRuleEditor names={names} value={placed.until} onChange={(until) => onChange({ ...placed, until })} />
        </>
      )}
      {placed?.test === 'place' && (
        <div className={styles.row}>
          {(placed.which === 'range' || placed.which === 'every') && (
            <CountField
              label="First row"
              value={placed.from}
              least={1}
              most={1e9}
              onChange={(from) => onChange({ ...placed, from })}
            />
          )}
          <CountField
            label={placed.which === 'range' ? 'Last row' : 'How many'}
            value={placed.count}
            least={1}
            most={1e9}
            onChange={(count) => onChange({ ...placed, count })}
          />
        </div>
      )}
      {placed !== undefined && (
        <>
          <p className={styles.heading}>Looked for in each</p>
          <ColumnPicker
            label="Looked for in each"
            names={names}
            value={placed.within ?? null}
            optional
            onChange={(within) => onChange({ ...placed, within: within ?? undefined })}
          />
        </>
      )}
    </div>
  );
}

const fresh = (names: readonly string[]): PlainRule => ({ test: 'equals', column: names[0] ?? '', text: '' });

interface RuleProps {
  names: readonly string[];
  value: Rule | null;
  optional: boolean;
  onChange(rule: Rule | null): void;
}

export function RuleEditor({ names, value, optional, onChange }: RuleProps) {
  if (value === null || 'row' in value || value.test === 'place') {
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
            <span className={styles.heading}>Rule {k + 1}</span>
            <IconButton
              size="small"
              aria-label={`Take rule ${k + 1} away`}
              onClick={() => onChange(value.filter((_, other) => other !== k))}
            >
              <Close fontSize="inherit" />
            </IconButton>
          </div>
          <PlacedRuleEditor
            names={names}
            value={rule}
            onChange={(next) => onChange(value.map((one, other) => (other === k ? next : one)))}
          />
        </div>
      ))}
      <Button variant="outlined" onClick={() => onChange([...value, fresh(names)])}>
        {value.length === 0 ? 'Add a rule' : 'Another rule'}
      </Button>
    </div>
  );
}
