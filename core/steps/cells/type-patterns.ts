import type { Table } from '../../table/table.ts';
import { sampleTexts } from '../../values/cell-text.ts';
import { compilePatterns, DEFAULT_PATTERNS } from '../../values/convert.ts';
import { readDate } from '../../values/date-text.ts';

export type PatternedType = 'date' | 'time' | 'datetime';

/** Patterns that are tried on texts, the likeliest first. */
export const GUESS_PATTERNS: Record<PatternedType, readonly string[]> = {
  date: [
    'yyyy-MM-dd',
    'dd/MM/yyyy',
    'MM/dd/yyyy',
    'dd.MM.yyyy',
    'd MMM yyyy',
    'd MMMM yyyy',
    'MMM d yyyy',
    'dd-MMM-yy',
    'yyyyMMdd',
  ],
  time: DEFAULT_PATTERNS.time,
  datetime: [...DEFAULT_PATTERNS.datetime, 'dd/MM/yyyy HH:mm', 'dd/MM/yyyy HH:mm:ss', 'dd.MM.yyyy HH:mm'],
};

/** How well a pattern suits the texts of some columns. */
export interface PatternFit {
  pattern: string;
  fits: number;
  of: number;
  /** A text that it cannot read. */
  misfit?: string;
}

const SAMPLE = 2000;

/** Patterns that read at least one text of the columns, those that read most first. */
export function fittingPatterns(table: Table, names: readonly string[], type: PatternedType): PatternFit[] {
  const texts = table.fields
    .filter((field) => names.includes(field.name))
    .flatMap((field) => sampleTexts(field.column, SAMPLE));
  return GUESS_PATTERNS[type]
    .map((pattern): PatternFit => {
      const [compiled] = compilePatterns(type, [pattern], 'any', 1950);
      const misfits = texts.filter((text) => typeof readDate(text, compiled!) === 'string');
      return { pattern, fits: texts.length - misfits.length, of: texts.length, misfit: misfits[0] };
    })
    .filter((one) => one.fits > 0)
    .sort((a, b) => b.fits - a.fits);
}
