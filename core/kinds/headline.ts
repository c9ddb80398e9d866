/** Headlines of steps: what a step did to this report, in at most seven words. */

import type { ColumnSet } from './column-set.ts';
import type { Pile } from './step.ts';

/** What a step did, as far as it has run. */
export interface StepEffect {
  /** Rows that went onto its piles. */
  aside?: number;
}

/** The effect of a step by its piles. */
export function effectOfPiles(piles: readonly Pile[]): StepEffect {
  const aside = piles.reduce((sum, pile) => sum + (pile.columns === undefined ? pile.rows.length : 0), 0);
  return aside === 0 ? {} : { aside };
}

/** Names that a headline spells out; more are counted. */
const MAX_NAMES = 2;
/** Letters of a name that a headline spells out. */
const MAX_LETTERS = 28;

const isShort = (names: readonly string[]) => names.join(' and ').length <= MAX_LETTERS;

/** 'Foot', 'Foot and Cars', '6 columns'. */
export function namesPhrase(names: readonly string[], noun = 'columns'): string {
  if (names.length > 0 && names.length <= MAX_NAMES && isShort(names)) return names.join(' and ');
  if (names.length === 1) return `${names[0]!.slice(0, MAX_LETTERS - 1).trimEnd()}…`;
  return `${names.length} ${noun}`;
}

export function columnsPhrase(set: ColumnSet): string {
  switch (set.by) {
    case 'names':
      return namesPhrase(set.names);
    case 'all-but':
      if (set.names.length === 0) return 'all columns';
      if (set.names.length === 1 && isShort(set.names)) return `all columns but ${set.names[0]}`;
      return `all but ${set.names.length} columns`;
    case 'all':
      return 'all columns';
    case 'starts':
    case 'ends':
    case 'contains': {
      // ' / ' stands between the tiers of a header.
      const word = set.text.replace(/^[\s/]+|[\s/]+$/gu, '');
      return word === '' ? 'tiered columns' : `${word} columns`;
    }
    case 'matches':
      return 'columns by pattern';
    case 'year':
      return 'year columns';
    case 'month':
      return 'month columns';
    case 'blank':
      return 'empty columns';
    case 'constant':
      return 'constant columns';
  }
}

const PILE_NOUNS: Readonly<Record<string, string>> = {
  blanks: 'blank row',
  totals: 'total',
  notes: 'note',
  titles: 'title',
  repeats: 'repeated row',
  units: 'unit row',
  labels: 'label',
  balances: 'balance row',
  'page heads': 'page heading',
};

/** '16 totals', '1 blank row'; without a count 'totals'. */
export function pilePhrase(pile: string, count: number | undefined): string {
  const noun = PILE_NOUNS[pile];
  if (noun === undefined) return count === undefined ? pile : `${count} ${count === 1 ? 'row' : 'rows'}: ${pile}`;
  return count === undefined ? `${noun}s` : `${count} ${noun}${count === 1 ? '' : 's'}`;
}
