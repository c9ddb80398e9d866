import type { Table } from '../../table/table.ts';
import { sampleTexts } from '../../values/cell-text.ts';
import { compilePatterns, DEFAULT_PATTERNS } from '../../values/convert.ts';
import { compilePattern, type DatePattern, readDate } from '../../values/date-text.ts';

export type PatternedType = 'date' | 'time' | 'datetime';

/** Day first, then month first: numbers alone do not tell which. Padded forms come first, since they say more. */
const NUMERIC_DATES = ['/', '.', '-'].flatMap((mark) =>
  ['dd|MM|yyyy', 'MM|dd|yyyy', 'd|M|yyyy', 'M|d|yyyy', 'd|M|yy', 'M|d|yy'].map((form) => form.replaceAll('|', mark)),
);
const DATES = [
  'yyyy-MM-dd',
  'yyyy/MM/dd',
  'yyyy.MM.dd',
  // Points with the month first are written nowhere.
  ...NUMERIC_DATES.filter((form) => !/^M+\./.test(form)),
  'd MMM yyyy',
  'd. MMMM yyyy',
  "d 'de' MMMM 'de' yyyy",
  'MMM d yyyy',
  'MMM d, yyyy',
  'dd-MMM-yy',
  'd-MMM-yy',
  'd-MMM-yyyy',
  'd MMM yy',
  'd/MMM/yyyy',
  'EEEE d MMMM yyyy',
  'EEEE, d MMMM yyyy',
  'EEEE, MMMM d, yyyy',
  'EEEE d/M/yyyy',
  'EEEE, d.M.yyyy',
];
const CLOCKS = ['HH:mm', 'HH:mm:ss', 'H:mm', 'h:mm a', 'h:mm:ss a'];

/** The common log format of the NCSA server, asctime of ISO C, and dates of RFC 5322 and RFC 9110. */
const OF_PROTOCOLS = [
  'dd/MMM/yyyy:HH:mm:ss XX',
  'dd/MMM/yyyy:HH:mm:ss',
  'EEE MMM d HH:mm:ss yyyy',
  'EEE, d MMM yyyy HH:mm:ss XX',
  "EEE, d MMM yyyy HH:mm:ss 'GMT'",
  'MMM d yyyy HH:mm:ss',
];

/** Patterns that are tried on texts, the likeliest first. */
export const GUESS_PATTERNS: Record<PatternedType, readonly string[]> = {
  date: [...DATES, 'yyyyMMdd'],
  time: [...DEFAULT_PATTERNS.time, 'H:mm', 'h:mm a', 'h:mm:ss a', "HH'h'mm"],
  datetime: [
    ...DEFAULT_PATTERNS.datetime,
    ...OF_PROTOCOLS,
    ...DATES.slice(1).flatMap((date) =>
      [' ', ', '].flatMap((between) => CLOCKS.map((clock) => date + between + clock)),
    ),
  ],
};

/** Forms that one column may mix. */
const MAX_MIXED = 6;

/**
 * The type and the fewest patterns that read every text, or undefined. Of patterns that differ only in the order of day
 * and month, one alone is taken for each mark between them.
 */
export function patternsFor(texts: readonly string[]): { type: PatternedType; patterns: string[] } | undefined {
  // Dates beside dates with times are dates and times.
  for (const type of ['time', 'date', 'datetime'] as const) {
    const forms = type === 'datetime' ? [...GUESS_PATTERNS.datetime, ...DATES] : GUESS_PATTERNS[type];
    const patterns = fewest(texts, forms);
    if (patterns !== undefined) return { type, patterns };
  }
  return undefined;
}

function fewest(texts: readonly string[], forms: readonly string[]): string[] | undefined {
  const compiled = forms.map((form) => ({ form, own: compilePattern(form) }));
  const reads = (text: string, own: DatePattern) => typeof readDate(text, own) === 'number';
  const single = compiled.find(({ own }) => texts.every((text) => reads(text, own)));
  if (single !== undefined) return [single.form];
  const fits = compiled
    .map(({ form, own }) => ({ form, texts: new Set(texts.filter((text) => reads(text, own))) }))
    .filter((one) => one.texts.size > 0);
  const chosen: string[] = [];
  let left = [...texts];
  while (left.length > 0) {
    if (chosen.length === MAX_MIXED) return undefined;
    const [best] = fits
      .filter(({ form }) => !chosen.some((other) => isSwapped(form, other)))
      .map((fit) => ({ ...fit, size: left.filter((text) => fit.texts.has(text)).length }))
      .sort((a, b) => b.size - a.size);
    if (best === undefined || best.size === 0) return undefined;
    chosen.push(best.form);
    left = left.filter((text) => !best.texts.has(text));
  }
  return chosen;
}

/** Whether one begins with the day and the other with the month, with the same mark after it. */
function isSwapped(one: string, other: string): boolean {
  const begin = (form: string) => /^(?:E+,? )?(d|M)\1?([/.-])\w{1,2}\2/.exec(form);
  const [a, b] = [begin(one), begin(other)];
  return a !== null && b !== null && a[1] !== b[1] && a[2] === b[2];
}

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
