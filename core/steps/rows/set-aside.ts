import { z } from 'zod';
import { pilePhrase } from '../../kinds/headline.ts';
import { blank, choiceBlank, option } from '../../kinds/sentence.ts';
import { type Mark, type Pile, type StepDescriptor, type StepResult, stepKind } from '../../kinds/step.ts';
import { anyRuleMask, Rule, rowsText } from '../../rules/rules.ts';
import { invertMask, maskedRows, takeRows } from '../../table/gather.ts';
import { sameColumns, takenRows } from '../../table/origin.ts';
import type { Table } from '../../table/table.ts';
import { idleNotice } from '../result.ts';

export const PILES = ['titles', 'notes', 'totals', 'repeats', 'blanks', 'others'] as const;

const MARK_OF_PILE: Record<string, Mark> = {
  titles: 'title',
  notes: 'note',
  totals: 'total',
  repeats: 'repeat',
  labels: 'label',
  blanks: 'blank',
};

/** The mark that rows on a pile of this name bear on the report, where the step does not say it. */
export function pileMark(name: string): Mark {
  const plain = name.trim().toLowerCase();
  return MARK_OF_PILE[plain] ?? MARK_OF_PILE[`${plain}s`] ?? (/total|\bsums?\b/.test(plain) ? 'total' : 'other');
}

const MARKS = ['title', 'label', 'total', 'note', 'repeat', 'blank', 'other'] as const satisfies readonly Mark[];

/** Takes the masked rows out of the table, onto a pile; the rest keep their order. */
export function setAsideRows(input: Table, mask: Uint8Array, pile: string, mark = pileMark(pile)): StepResult {
  const away = maskedRows(mask);
  if (away.length === 0) {
    return { table: input, origin: sameColumns(input.fields.length), aside: [], notices: [] };
  }
  const kept = maskedRows(invertMask(mask));
  const piles: Pile[] = [{ name: pile, mark, rows: away }];
  return {
    table: takeRows(input, kept),
    origin: sameColumns(input.fields.length, takenRows(kept)),
    aside: piles,
    notices: [],
  };
}

const Params = z.object({
  pile: z.string().min(1).default('others').describe('Name of the pile'),
  mark: z
    .enum(MARKS)
    .optional()
    .describe('What the rows on the pile are to the report; by its name where this is not said'),
  rules: z.array(Rule).describe('A row that follows any of these is set aside'),
});
type Params = z.infer<typeof Params>;

export const setAsideWords: StepDescriptor<Params> = {
  kind: 'set-aside',
  rowByRow: true,
  drops: true,
  title: 'Set aside rows',
  summary: 'Moves rows that match a rule to a named pile',
  searchTerms: [
    'remove rows',
    'delete rows',
    'drop rows',
    'filter out',
    'skip',
    'titles',
    'notes',
    'totals',
    'subtotals',
    'blank rows',
  ],
  params: Params,
  headline: ({ pile }, { aside }) => `Set aside ${pilePhrase(pile, aside)}`,
  sentence: (params) => [
    'Set aside as ',
    blank('pile', params.pile, { as: 'text', label: 'Name of the pile', hint: PILES.join(', ') }),
    option(
      (params.mark ?? pileMark(params.pile)) === pileMark(params.pile),
      ', which are ',
      choiceBlank(
        'mark',
        params.mark ?? pileMark(params.pile),
        'What the rows are to the report',
        MARKS.map((mark) => [mark, mark === 'other' ? 'other rows' : `${mark}s`]),
      ),
    ),
    ': ',
    blank('rules', rowsText(params.rules), { as: 'rules', label: 'Rows to set aside' }),
  ],
};

export const setAside = /* @__PURE__ */ stepKind<Params>(setAsideWords, {
  start: (_, columns) =>
    columns.length === 0
      ? { pile: 'blanks', rules: [{ test: 'empty' }] }
      : { pile: 'totals', rules: [{ test: 'ends', column: columns[0]!, text: 'total' }] },
  run(input, params) {
    const mask = anyRuleMask(params.rules, input);
    const result = setAsideRows(input, mask, params.pile, params.mark);
    if (result.aside.length > 0) return result;
    return { ...result, notices: [idleNotice('no row follows the rule')] };
  },
});
