import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import type { ComponentType } from 'react';
import { type Editor, type PlainRule, RULE_KINDS, type Rule } from '../../../core/index.ts';
import { ColumnPicker } from './ColumnPicker.tsx';
import type { SentenceContext } from './context.ts';
import { CountField, Picker } from './fields.tsx';
import styles from './sentence.module.css';

interface Surroundings {
  context: SentenceContext;
  /** The editor of one param, which is given so that it may hold rules itself. */
  Field: ComponentType<{ edit: Editor; value: unknown; context: SentenceContext; onChange(value: unknown): void }>;
}

const TITLES = Object.fromEntries([...RULE_KINDS].map(([test, kind]) => [test, kind.title]));

/** What was said of the rule before goes along as far as the other kind has a use for it. */
function withTest(rule: PlainRule, test: string, names: readonly string[]): PlainRule {
  const column = 'column' in rule ? rule.column : (names[0] ?? '');
  const text = 'text' in rule ? rule.text : '';
  return { test, ...RULE_KINDS.get(test)!.start(column, text) } as PlainRule;
}

interface PlainProps extends Surroundings {
  value: PlainRule;
  onChange(rule: PlainRule): void;
}

function PlainRuleEditor({ value, onChange, context, Field }: PlainProps) {
  const names = context.columns.map((column) => column.name);
  const fields = RULE_KINDS.get(value.test)?.fields ?? [];
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
        value={value.test as string}
        choices={TITLES}
        onChange={(test) => onChange(withTest(value, test, names))}
      />
      {fields.length > 0 && (
        <div key={value.test} className={fields.length > 1 ? styles.row : undefined}>
          {fields.map(({ param, edit }) => (
            <Field
              key={param}
              edit={edit}
              value={value[param as keyof PlainRule]}
              context={context}
              onChange={(next) => onChange({ ...value, [param]: next ?? null } as PlainRule)}
            />
          ))}
        </div>
      )}
    </div>
  );
}

const PLACES = {
  here: 'rows where',
  'above-first': 'all above the first row where',
  'below-last': 'all below the last row where',
  'right-above': 'right above rows where',
  'between-rows': 'from rows where … to the next where …',
  first: 'the first rows',
  last: 'the last rows',
  range: 'rows from … to …',
  every: 'every n rows',
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
    case 'right-above':
      return { test: place, row, within };
    default:
      return { test: 'place', which: place, from: 1, count: place === 'every' ? 2 : 1, within };
  }
}

/** A rule with where it is searched for. */
function PlacedRuleEditor({ value, onChange, ...around }: Surroundings & { value: Rule; onChange(rule: Rule): void }) {
  const names = around.context.columns.map((column) => column.name);
  const placed = 'row' in value || value.test === 'place' ? value : undefined;
  return (
    <div className={styles.stack}>
      <Picker
        label="Which rows"
        value={placeOf(value)}
        choices={PLACES}
        onChange={(place) => onChange(inPlace(value, place, names))}
      />
      {placed === undefined && <PlainRuleEditor {...around} value={value as PlainRule} onChange={onChange} />}
      {placed !== undefined && placed.test !== 'place' && (
        <PlainRuleEditor {...around} value={placed.row} onChange={(row) => onChange({ ...placed, row })} />
      )}
      {placed?.test === 'between-rows' && (
        <>
          <p className={styles.heading}>to the next row where</p>
          <PlainRuleEditor {...around} value={placed.until} onChange={(until) => onChange({ ...placed, until })} />
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
          <p className={styles.heading}>Searched in each</p>
          <ColumnPicker
            label="Searched in each"
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

interface RuleProps extends Surroundings {
  value: Rule | null;
  optional: boolean;
  onChange(rule: Rule | null): void;
}

export function RuleEditor({ value, optional, onChange, ...around }: RuleProps) {
  const names = around.context.columns.map((column) => column.name);
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
      <PlainRuleEditor {...around} value={value} onChange={onChange} />
      {optional && <Button onClick={() => onChange(null)}>Take the first row instead</Button>}
    </div>
  );
}

export function RulesEditor({
  value,
  onChange,
  ...around
}: Surroundings & { value: readonly Rule[]; onChange(rules: Rule[]): void }) {
  const names = around.context.columns.map((column) => column.name);
  return (
    <div className={styles.stack}>
      {value.map((rule, k) => (
        <div key={k} className={styles.box}>
          <div className={styles.row}>
            <span className={styles.heading}>Rule {k + 1}</span>
            <IconButton
              size="small"
              aria-label={`Remove rule ${k + 1}`}
              onClick={() => onChange(value.filter((_, other) => other !== k))}
            >
              <Close fontSize="inherit" />
            </IconButton>
          </div>
          <PlacedRuleEditor
            {...around}
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
