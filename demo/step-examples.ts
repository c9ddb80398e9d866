/** One small example of each kind of step: a few rows of the ferries before it, and what is set. What follows is run. */

/** Cells by column. Numbers are numbers, days such as 2031-06-30 are dates where all cells are; all else is text. */
export type ExampleColumns = Readonly<Record<string, readonly (string | number | null)[]>>;

export interface StepExample {
  kind: string;
  before: ExampleColumns;
  params: Record<string, unknown>;
  /** The columns are named by letters, as a file without a header is read. */
  isPositioned?: boolean;
  /** The other table that the step takes, under the name that its params give. */
  other?: { name: string; columns: ExampleColumns };
}

const names = (...chosen: string[]) => ({ by: 'names', names: chosen });
const says = (column: string, text: string) => ({ test: 'equals', column, text });

const SAILINGS = { Port: ['Hask', 'Ullin', 'Tarve'], Foot: [120, 48, 75], Cars: [31, 9, 22] };
const TONNES = { Port: ['Hask', 'Hask', 'Ullin'], Month: ['April', 'May', 'April'], Tonnes: [14, 17, 6] };
const PORTS = { name: 'Ports', columns: { Port: ['Hask', 'Tarve'], Island: ['North isle', 'West isle'] } };

export const STEP_EXAMPLES: readonly StepExample[] = [
  {
    kind: 'set-aside',
    before: { Port: ['Hask', 'Ullin', 'Total'], Foot: [120, 48, 168] },
    params: { pile: 'totals', mark: 'total', rules: [says('Port', 'Total')] },
  },
  { kind: 'keep-rows', before: SAILINGS, params: { rules: [{ test: 'expression', text: 'Foot >= 70' }] } },
  { kind: 'drop-rows', before: SAILINGS, params: { rules: [says('Port', 'Ullin')] } },
  { kind: 'sort', before: SAILINGS, params: { keys: [{ column: 'Foot', descending: true }] } },
  { kind: 'number-rows', before: SAILINGS, params: { into: 'No.' } },
  {
    kind: 'remove-duplicates',
    before: { Booking: ['B-11', 'B-12', 'B-11'], Port: ['Hask', 'Ullin', 'Hask'] },
    params: { columns: names('Booking') },
  },
  {
    kind: 'show-duplicates',
    before: { Booking: ['B-11', 'B-12', 'B-11'], Port: ['Hask', 'Ullin', 'Hask'] },
    params: { columns: names('Booking'), into: 'Times' },
  },
  {
    kind: 'header-from-rows',
    isPositioned: true,
    before: {
      A: ['Returns', null, 'Port', 'Hask', 'Ullin'],
      B: [null, 'April', 'Foot', '120', '48'],
      C: [null, null, 'Cars', '31', '9'],
    },
    params: { rows: 2, at: says('B', 'April') },
  },
  { kind: 'names-to-row', before: { Port: ['Hask', 'Ullin'], Foot: ['120', '48'] }, params: {} },
  { kind: 'rename', before: SAILINGS, params: { names: [{ from: 'Foot', to: 'Passengers' }] } },
  {
    kind: 'rename-by-pattern',
    before: { Port: ['Hask'], foot_2031: [120], cars_2031: [31] },
    params: { columns: { by: 'all' }, find: '_2031', with: '' },
  },
  { kind: 'tidy-names', before: { 'Port of call': ['Hask'], 'Foot (no.)': [120] }, params: { style: 'snake' } },
  { kind: 'keep-columns', before: SAILINGS, params: { columns: names('Port', 'Cars') } },
  { kind: 'drop-columns', before: SAILINGS, params: { columns: names('Cars') } },
  {
    kind: 'set-aside-columns',
    before: { Port: ['Hask', 'Ullin'], April: [120, 48], May: [131, 52], Total: [251, 100] },
    params: { pile: 'totals', columns: names('Total') },
  },
  { kind: 'move-columns', before: SAILINGS, params: { columns: names('Cars'), to: 'first' } },
  {
    kind: 'fill',
    before: { Ship: ['Petrel', null, 'Corvo', null], Port: ['Hask', 'Ullin', 'Hask', 'Tarve'] },
    params: { columns: names('Ship'), direction: 'down' },
  },
  {
    kind: 'carry',
    before: { Port: ['North isle', 'Hask', 'Ullin', 'West isle', 'Tarve'], Foot: [null, 120, 48, null, 75] },
    params: { from: 'Port', rule: { test: 'only', columns: ['Port'] }, into: 'Island' },
  },
  {
    kind: 'levels',
    before: { Account: ['Harbour', '  Dues', '  Rope', 'Ships', '  Fuel'], Amount: [null, 210, 35, null, 890] },
    params: { column: 'Account', into: ['Group'] },
  },
  {
    kind: 'lines-to-columns',
    isPositioned: true,
    before: { A: ['Depot: Hask', 'R-1', 'R-2', 'Depot: Ullin', 'R-3'], B: [null, '12', '7', null, '9'] },
    params: { names: ['Depot'] },
  },
  {
    kind: 'close-gaps',
    before: {
      Port: ['Hask', null, 'Tarve'],
      Foot: ['120', 'Ullin', '75'],
      Cars: ['31', '48', '22'],
      D: [null, '9', null],
    },
    params: { columns: { by: 'all' }, direction: 'left' },
  },
  {
    kind: 'clean-text',
    before: { Port: [' Hask', 'Ullin  pier', 'Tarve\u00a0'], Foot: [120, 48, 75] },
    params: { columns: names('Port') },
  },
  {
    kind: 'replace',
    before: { Port: ['PORT Hask', 'PORT Ullin'], Foot: [120, 48] },
    params: { columns: names('Port'), find: 'PORT ', with: '' },
  },
  {
    kind: 'blank-texts',
    before: { Port: ['Hask', 'Ullin', 'Tarve'], Foot: ['120', 'n/a', '-'] },
    params: { columns: names('Foot'), texts: ['n/a', '-'] },
  },
  {
    kind: 'fill-blanks',
    before: { Port: ['Hask', 'Ullin'], Foot: [120, null] },
    params: { columns: names('Foot'), with: '0' },
  },
  {
    kind: 'set-types',
    before: { Day: ['01.06.2031', '02.06.2031', 'closed'], Fare: ['1.204,50', '880,00', '95,25'] },
    params: {
      types: [
        { columns: names('Day'), type: 'date', patterns: ['dd.MM.yyyy'] },
        { columns: names('Fare'), type: 'number', number: { decimal: ',', group: '.' } },
      ],
    },
  },
  {
    kind: 'recode',
    before: { Booking: ['B-11', 'B-12', 'B-13'], Type: ['1', '2', '1'] },
    params: {
      column: 'Type',
      crosswalk: [
        { from: '1', to: 'foot' },
        { from: '2', to: 'car' },
      ],
    },
  },
  {
    kind: 'date-parts',
    before: { Day: ['2031-06-01', '2031-07-14'], Foot: [120, 48] },
    params: { column: 'Day', parts: ['year', 'month-name'] },
  },
  {
    kind: 'round',
    before: { Port: ['Hask', 'Ullin'], Fare: [12.345, 8.4] },
    params: { columns: names('Fare'), size: 1 },
  },
  {
    kind: 'extract',
    before: { Berth: ['HSK-12', 'ULN-3'] },
    params: { column: 'Berth', by: 'template', template: '{Port}-{Number}' },
  },
  {
    kind: 'join-text',
    before: { First: ['Ada', 'Ole'], Last: ['Berg', 'Strand'] },
    params: { columns: names('First', 'Last'), with: ' ', into: 'Name', keep: false },
  },
  { kind: 'expression', before: SAILINGS, params: { into: 'All', text: 'Foot + 2 * Cars' } },
  {
    kind: 'split-to-columns',
    before: { Crossing: ['Hask > Ullin', 'Tarve > Hask'] },
    params: { column: 'Crossing', cut: { by: 'delimiter', delimiters: ['>'] }, into: ['From', 'To'] },
  },
  {
    kind: 'split-to-rows',
    before: { Ship: ['Petrel', 'Corvo'], Ports: ['Hask, Ullin', 'Tarve'] },
    params: { columns: ['Ports'], cut: { by: 'delimiter', delimiters: [','] } },
  },
  {
    kind: 'unnest',
    before: { Booking: ['B-11', 'B-12'], Items: ['{"foot":2,"cars":1}', '{"foot":1}'] },
    params: { column: 'Items', lists: 'rows', prefix: false },
  },
  {
    kind: 'unpivot',
    before: { Port: ['Hask', 'Ullin'], April: [120, 48], May: [131, 52] },
    params: { columns: names('April', 'May'), parts: [{ as: 'column', name: 'Month' }], value: 'Foot' },
  },
  {
    kind: 'pivot',
    before: TONNES,
    params: { rows: names('Port'), names: ['Month'], values: [{ column: 'Tonnes' }] },
  },
  {
    kind: 'group',
    before: TONNES,
    params: { by: names('Port'), measures: [{ column: 'Tonnes', by: 'sum', name: 'Tonnes' }] },
  },
  { kind: 'count', before: TONNES, params: { columns: ['Port'] } },
  {
    kind: 'transpose',
    before: { Figure: ['Foot', 'Cars'], Hask: ['120', '31'], Ullin: ['48', '9'] },
    params: { names: 'Figure', into: 'Port' },
  },
  {
    kind: 'stack-beside',
    isPositioned: true,
    before: {
      A: ['Port', 'Hask', 'Ullin'],
      B: ['Foot', '120', '48'],
      C: [null, null, null],
      D: ['Port', 'Tarve', null],
      E: ['Foot', '75', null],
    },
    params: { at: says('A', 'Port') },
  },
  {
    kind: 'fold-rows',
    isPositioned: true,
    before: { A: ['B-11', null, 'B-12', null], B: ['Hask', 'Ada Berg', 'Ullin', 'Ole Strand'] },
    params: { first: { test: 'filled', columns: names('A') } },
  },
  {
    kind: 'append',
    before: { Port: ['Hask'], Foot: [120] },
    params: { tables: ['May'] },
    other: { name: 'May', columns: { Port: ['Ullin', 'Tarve'], Foot: [52, 81] } },
  },
  {
    kind: 'join',
    before: { Port: ['Hask', 'Ullin'], Foot: [120, 48] },
    params: { table: 'Ports', keys: [{ left: 'Port', right: 'Port' }] },
    other: PORTS,
  },
  {
    kind: 'look-up',
    before: { Port: ['Hask', 'Tarve'], Foot: [120, 75] },
    params: { table: 'Ports', keys: [{ left: 'Port', right: 'Port' }], columns: ['Island'] },
    other: PORTS,
  },
  {
    kind: 'variance',
    before: { Port: ['Hask', 'Ullin'], Actual: [120, 48], Plan: [100, 50] },
    params: { actual: 'Actual', target: 'Plan', into: 'Difference', share: 'Share' },
  },
  {
    kind: 'split-off',
    before: {
      Port: ['Hask', 'Hask', 'Tarve'],
      Island: ['North isle', 'North isle', 'West isle'],
      Foot: [120, 131, 75],
    },
    params: { key: ['Port'], columns: ['Island'], give: 'split-off' },
  },
];
