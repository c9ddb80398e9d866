import { z } from 'zod';
import { compilePattern } from '../kinds/column-set.ts';
import { StepFailure } from '../kinds/step.ts';
import { mostAlike } from '../values/likeness.ts';

/** Some of the sheets of a workbook, of the files of an archive, of the pages of a print, or of tables. */
export const NameSet = z.discriminatedUnion('by', [
  z.object({ by: z.literal('all') }),
  z.object({ by: z.literal('names'), names: z.array(z.string()).min(1) }),
  z.object({ by: z.literal('matches'), pattern: z.string().describe('ECMAScript regular expression') }),
]);
export type NameSet = z.infer<typeof NameSet>;

export function nameSetText(set: NameSet, what: 'sheets' | 'files' | 'pages' | 'tables'): string {
  if (set.by === 'all') return `all ${what}`;
  return set.by === 'names' ? `${what} ${set.names.join(', ')}` : `${what} whose name matches ${set.pattern}`;
}

/** For a headline: 'sheet Plan', '3 sheets, stacked', 'all sheets, stacked'. */
export function nameSetPhrase(set: NameSet, what: 'sheets' | 'files' | 'pages' | 'tables'): string {
  if (set.by !== 'names') return set.by === 'all' ? `all ${what}, stacked` : `${what} by name, stacked`;
  return set.names.length === 1 ? `${what.slice(0, -1)} ${set.names[0]}` : `${set.names.length} ${what}, stacked`;
}

/** Indexes of the chosen names. @throws StepFailure when a name is not there, or none matches */
export function chosenNames(
  set: NameSet,
  names: readonly string[],
  file: string,
  what: 'sheet' | 'file' | 'page' | 'table',
): number[] {
  if (set.by === 'all') return names.map((_, k) => k);
  if (set.by === 'matches') {
    const pattern = compilePattern(set.pattern);
    const found = names.flatMap((name, k) => (pattern.test(name) ? [k] : []));
    if (found.length === 0)
      throw new StepFailure(`No ${what} of ${file} matches ${set.pattern}. The ${what}s are ${names.join(', ')}.`);
    return found;
  }
  return set.names.map((name) => {
    const k = names.indexOf(name);
    if (k >= 0) return k;
    const alike = mostAlike(name, names);
    const hint = alike === undefined ? '' : ` Did you mean ${alike}?`;
    throw new StepFailure(
      `${file} has no ${what} ${name}. The ${what}s are ${names.join(', ')}.${hint}`,
      undefined,
      alike,
    );
  });
}
