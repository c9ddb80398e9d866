import { z } from 'zod';
import { type DateField, dateField, type Period, periodStart } from '../../formula/dates.ts';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank, columnBlank } from '../../kinds/sentence.ts';
import { needColumn, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { Dictionary } from '../../table/builder.ts';
import type { Column } from '../../table/column.ts';
import { civilFromDays, MS } from '../../values/civil.ts';
import { LANGUAGES, monthNames } from '../../values/month-names.ts';
import { withColumns } from '../result.ts';

/** Each part with what a new column of it is called. */
const PARTS = {
  year: 'year',
  quarter: 'quarter',
  month: 'month',
  'month-name': 'month name',
  week: 'ISO week',
  isoyear: 'ISO year',
  isodow: 'weekday number',
  'weekday-name': 'weekday',
  day: 'day',
  'start-year': 'start of year',
  'start-quarter': 'start of quarter',
  'start-month': 'start of month',
  'start-week': 'start of week',
} as const;
type Part = keyof typeof PARTS;
const PART_NAMES = Object.keys(PARTS) as [Part, ...Part[]];
// ISO 8601 counts from Monday.
const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

const Params = z.object({
  column: columnName(),
  parts: z.array(z.enum(PART_NAMES)).min(1).default(['year', 'month']),
  language: z
    .enum(LANGUAGES as [string, ...string[]])
    .default('en')
    .describe('Of month names'),
});
type Params = z.infer<typeof Params>;

export const datePartsWords: StepDescriptor<Params> = {
  kind: 'date-parts',
  rowByRow: true,
  drops: true,
  title: 'Date parts',
  summary: 'Year, quarter, month, ISO week, weekday or the start of a period, each in a new column',
  searchTerms: ['year', 'quarter', 'month', 'week number', 'weekday', 'day of week', 'start of month', 'calendar'],
  params: Params,
  headline: ({ column, parts }) =>
    `Take ${namesPhrase(
      parts.map((part) => PARTS[part]),
      'parts',
    )} of ${namesPhrase([column])}`,
  sentence: (params) => [
    'Take ',
    blank('parts', params.parts.map((part) => PARTS[part]).join(', '), {
      as: 'several',
      label: 'Parts of the date',
      choices: PART_NAMES,
    }),
    ' of ',
    columnBlank('column', params.column, 'Column of dates'),
    ...(params.parts.includes('month-name')
      ? [
          ' in ',
          choiceBlank(
            'language',
            params.language,
            'Language of month names',
            LANGUAGES.map((code) => [code, code] as const),
          ),
        ]
      : []),
  ],
};

export const dateParts = /* @__PURE__ */ stepKind<Params>(datePartsWords, {
  start: (table, columns) => {
    const dated = table.fields.find((field) => field.column.type === 'date' || field.column.type === 'datetime');
    return Params.parse({ column: columns[0] ?? dated?.name ?? '' });
  },
  run(input, params) {
    const k = needColumn(input, params.column);
    const { column } = input.fields[k]!;
    if (column.type !== 'date' && column.type !== 'datetime') {
      throw new StepFailure(
        `${params.column} holds no dates (it is ${column.type}). Set its type to date first.`,
        params.column,
      );
    }
    const days = column.type === 'date' ? column.values : column.values.map((value) => Math.floor(value / MS.day));
    return withColumns(
      input,
      k,
      params.parts.map((part) => ({
        field: {
          name: `${params.column} ${PARTS[part]}`,
          nameOrigin: 'named',
          column: partColumn(days, part, params.language),
        },
        origin: { cells: [{ role: 'value', rows: { kind: 'same' }, column: k }], name: [] },
      })),
    );
  },
});

function partColumn(days: Float64Array, part: Part, language: string): Column {
  if (part === 'month-name') return named(days, (day) => monthNames(language, false)[civilFromDays(day)[1] - 1]!);
  if (part === 'weekday-name') return named(days, (day) => WEEKDAYS[dateField(day, 'isodow') - 1]!);
  if (part.startsWith('start-')) {
    const period = part.slice('start-'.length) as Period;
    return { type: 'date', values: days.map((day) => (Number.isNaN(day) ? day : periodStart(day, period))) };
  }
  return { type: 'whole', values: days.map((day) => (Number.isNaN(day) ? day : dateField(day, part as DateField))) };
}

function named(days: Float64Array, name: (day: number) => string): Column {
  const dictionary = new Dictionary();
  const codes = Int32Array.from(days, (day) => (Number.isNaN(day) ? -1 : dictionary.code(name(day))));
  return { type: 'text', codes, dictionary: dictionary.texts, distinct: true };
}
