/** The pages of docs/ that are made from the code itself. */
import { readdirSync, readFileSync } from 'node:fs';
import {
  allKinds,
  CATALOGUE,
  FUNCTIONS,
  type JobStep,
  jobSchema,
  READING_WORDS,
  readJobFile,
  STEP_GROUPS,
  sentenceText,
  stepHeadline,
  stepSentence,
  type Table,
  textColumn,
} from '../core/index.ts';
import { runExample, type ShownTable } from '../demo/run-example.ts';
import { STEP_EXAMPLES, type StepExample } from '../demo/step-examples.ts';

function expressionsPage(): string {
  const rows = FUNCTIONS.map(
    (one) =>
      `| \`${one.name}\` | ${one.about} | \`${one.example[0]}\` | ${one.example[1] === '' ? '' : `\`${one.example[1]}\``} |`,
  );
  return `# Expressions

SQL scalar expressions (ISO/IEC 9075) over the columns of a row. A column stands by its name, in double quotes where it has blanks or capitals that matter: \`"Foot passengers" / nullif(Sailings, 0)\`. Text stands in single quotes, dates as \`date '2031-06-30'\`, times as \`time '07:10'\`, both together as \`timestamp '2031-06-30 07:10'\`.

Operators, loosest first: \`or\`, \`and\`, \`not\`, then \`= <> < <= > >= is in between like like_regex\`, then \`+ - ||\`, then \`* / %\`. Beside them \`case when … then … else … end\`, \`case x when … end\` and \`cast(x as number | integer | text | boolean | date | time | timestamp)\`.

- **Null** is SQL's: a comparison with null is neither true nor false, and a condition takes only what is true.
- **Types** are checked before anything runs: text is not a number until it is cast or its column's type is set. The message says where.
- **A row that cannot be computed** (a division by zero, a cell that is unreadable) is unreadable itself, with the reason, and never blank. Guard it: \`a / nullif(b, 0)\`. Branches of \`case\` that are not taken are not computed.
- **Dates**: a date plus or minus a number of days is a date; one date minus another is the days between.
- **Rounding** goes by decimal digits, halves away from zero: \`round(2.675, 2)\` is 2.68.

## Functions
Every example is run by the tests.

| function | what it gives | example | result |
| --- | --- | --- | --- |
${rows.join('\n')}

\`ceiling\` is \`ceil\`, \`character_length\` is \`char_length\`. \`coalesce\`, \`nullif\`, \`greatest\`, \`least\` and \`concat\` have their own way with null; every other function gives null for null.

## Where DuckDB answers otherwise
The tests run the same texts in DuckDB. These differ, and why:

| expression | here | DuckDB | why |
| --- | --- | --- | --- |
| \`1 / 0\` | unreadable: division by zero | null or infinity, by its version | the standard calls it an error; a blank would hide it |
| \`cast(2.5 as integer)\` | 3 | 2 | halves go away from zero here, everywhere |
| \`0.3 - 0.1\` over columns | 0.2 | 0.2 as DECIMAL, 0.19999999999999998 as DOUBLE | numbers that read as decimals of up to 15 digits are computed as decimals |
| \`'x' \\|\\| 7.0\` | x7 | x7.0 | a number reads as it is exported |
| \`date_trunc('month', date …)\` | a date | a date or timestamp, by its version | the start of a period is a day |
`;
}

function jobFilePage(): string {
  const groups = [
    {
      title: 'Beginnings',
      kinds: allKinds().filter(({ kind }) => kind.startsWith('read-') || kind === 'from-table'),
    },
    ...STEP_GROUPS.map((group) => ({ title: group.title, kinds: group.kinds })),
  ];
  const lists = groups.map(
    (group) => `### ${group.title}\n${group.kinds.map((kind) => `- \`${kind.kind}\`: ${kind.summary}`).join('\n')}`,
  );
  return `# The job file

A job file is JSON in UTF-8, and the same document that the browser keeps. [job.schema.json](job.schema.json) is its JSON Schema (draft 2020-12), made from the schemas that the application itself checks with. Saving a job that was loaded gives the same bytes.

\`\`\`json
{
  "rimefield": "job",
  "version": 1,
  "id": "…",
  "name": "Quay returns, quarterly",
  "sources": [{ "id": "quay-returns", "name": "quay returns", "file": { "name": "…", "size": 0, "sha256": "…" } }],
  "tables": [{ "id": "traffic", "name": "Traffic", "steps": [{ "id": "s1", "kind": "read-sheets", "params": { "source": "quay-returns" } }] }]
}
\`\`\`

The file of a source is identified by name, size and SHA-256; its bytes are not in the job. A version or a kind that this Rimefield does not know is refused with a message, and nothing is changed.

## Kinds of step
${lists.join('\n\n')}
`;
}

/** A few sailings of Skerrow Ferries, for steps that no demo job uses. */
const SAILINGS: Table = {
  rows: 3,
  fields: [
    { name: 'Port', nameOrigin: 'named', column: textColumn(['Hask', 'Hask', 'Ullin']) },
    { name: 'Route', nameOrigin: 'named', column: textColumn(['North', 'South', 'North']) },
    { name: 'April', nameOrigin: 'named', column: textColumn(['120', '75', '48']) },
    { name: 'May', nameOrigin: 'named', column: textColumn(['131', '80', '52']) },
  ],
};

/** The first step of each kind in the jobs of the demo. */
function demoSteps(): Map<string, JobStep> {
  const found = new Map<string, JobStep>();
  for (const name of readdirSync('demo/files')
    .filter((one) => one.endsWith('.job.json'))
    .sort()) {
    const job = readJobFile(readFileSync(`demo/files/${name}`, 'utf8'));
    for (const step of job.tables.flatMap((table) => table.steps))
      if (!found.has(step.kind)) found.set(step.kind, step);
  }
  return found;
}

/** A table in Markdown. */
function tableText({ names, rows }: ShownTable): string {
  const line = (cells: readonly string[]) =>
    `| ${cells.map((cell) => cell.replaceAll('|', '\\|').replace(/^ +/, (indent) => '&nbsp;'.repeat(indent.length))).join(' | ')} |`;
  return [line(names), line(names.map(() => '---')), ...rows.map(line)].join('\n');
}

function exampleText(example: StepExample): string {
  const { headline, before, other, after, aside } = runExample(example);
  return [
    `### ${CATALOGUE.get(example.kind)!.title}: ${headline}`,
    'Before:',
    tableText(before),
    ...(other === undefined ? [] : [`The table ${example.other!.name}:`, tableText(other)]),
    'After:',
    tableText(after),
    ...(aside === undefined ? [] : ['Set aside:', tableText(aside)]),
  ].join('\n\n');
}

function stepsPage(): string {
  const used = demoSteps();
  const example = (kind: string): JobStep => {
    const start = () => CATALOGUE.get(kind)!.start(SAILINGS, ['April']) as Record<string, unknown>;
    return used.get(kind) ?? { id: 's', kind, params: READING_WORDS.has(kind) ? {} : start() };
  };
  // Signs that a table of Markdown would take for its own.
  const cell = (text: string) => text.replaceAll('|', '\\|').replace(/\s+/g, ' ').trim();
  const groups = STEP_GROUPS.map(({ title, kinds }) => {
    const rows = kinds.map((words) => {
      const step = example(words.kind);
      const said = [words.title, words.summary, stepHeadline(step, {}), sentenceText(stepSentence(step))];
      return `| ${said.map(cell).join(' | ')} |`;
    });
    const examples = kinds.flatMap(({ kind }) => STEP_EXAMPLES.filter((one) => one.kind === kind).map(exampleText));
    return `## ${title}\n\n| step | what it does | headline | rule |\n| --- | --- | --- | --- |\n${rows.join('\n')}\n\n${examples.join('\n\n')}`;
  });
  return `# All steps

A method is a list of steps. Each step has a headline, which says in a few words what it does, and a rule, whose parts can be changed. The headlines and rules come from the jobs of the demo where one uses the step. Below each group stands what every step does to a few rows: these tables are made by running the step.

${groups.join('\n\n')}
`;
}

/** File names in docs/ and what must stand in them. */
export function referencePages(): Record<string, string> {
  return {
    'expressions.md': expressionsPage(),
    'job-file.md': jobFilePage(),
    'steps.md': stepsPage(),
    '../web/pages/bench/examples.json': `${JSON.stringify(Object.fromEntries(STEP_EXAMPLES.map((one) => [one.kind, runExample(one)])))}\n`,
    'job.schema.json': `${JSON.stringify(jobSchema(), null, 2)}\n`,
  };
}
