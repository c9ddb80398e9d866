import { escapeRegExp } from '../values/text.ts';

/**
 * Words by which reports say what a row or a column is, by language; lists grow here. They are only ever a hint beside
 * what a row adds up to and where it stands. Common practice.
 */
const TOTALS: Record<string, readonly string[]> = {
  en: ['total', 'totals', 'subtotal', 'sub-total', 'sum', 'overall', 'grand total', 'all'],
  de: [
    'summe',
    'gesamt',
    'gesamtsumme',
    'gesamtergebnis',
    'zwischensumme',
    'insgesamt',
    'ergebnis',
    'teilsumme',
    'zusammen',
  ],
  fr: ['total', 'ensemble', 'somme', 'sous-total', 'cumul', 'totaux'],
  es: ['total', 'suma', 'subtotal', 'suma total', 'totales', 'conjunto'],
  it: ['totale', 'somma', 'subtotale', 'complessivo'],
  pt: ['total', 'soma', 'subtotal'],
  nl: ['totaal', 'subtotaal', 'som'],
  sv: ['summa', 'totalt', 'delsumma'],
  da: ['i alt', 'sum', 'subtotal'],
  pl: ['razem', 'suma', 'ogółem'],
  fi: ['yhteensä'],
  cs: ['celkem', 'součet'],
};

const MEANS: Record<string, readonly string[]> = {
  en: ['average', 'mean', 'avg'],
  de: ['durchschnitt', 'mittelwert'],
  fr: ['moyenne', 'moy'],
  es: ['promedio', 'media'],
  it: ['media'],
  nl: ['gemiddelde'],
};

const CARRIED: Record<string, readonly string[]> = {
  en: ['carried forward', 'brought forward', 'c/f', 'b/f', 'carried over'],
  de: ['übertrag', 'vortrag'],
  fr: ['à reporter', 'report', 'reporté'],
  es: ['suma y sigue', 'suma anterior', 'a la página siguiente', 'de la página anterior'],
  it: ['riporto', 'a riportare'],
  nl: ['transport', 'over te brengen'],
};

const NOTES: Record<string, readonly string[]> = {
  en: ['note', 'notes', 'source', 'remark', 'remarks', 'legend', 'printed', 'prepared by'],
  de: ['hinweis', 'anmerkung', 'quelle', 'legende', 'stand', 'bemerkung'],
  fr: ['note', 'source', 'remarque', 'légende', 'édité', 'établi par'],
  es: ['nota', 'fuente', 'observación', 'leyenda', 'impreso', 'elaborado por'],
};

const words = (lists: Record<string, readonly string[]>) => [...new Set(Object.values(lists).flat())];

/** Words that say it only where nothing else stands beside them: 'Public transport' is no total. */
const WHOLE = new Set(['all', 'report', 'transport', 'media', 'conjunto', 'som', 'sum', 'cumul']);

/** The words as whole words, at the front or the end of a text. */
function atEnds(list: readonly string[]): RegExp {
  const any = (words: readonly string[]) => words.map(escapeRegExp).join('|');
  const inside = any(list.filter((word) => !WHOLE.has(word)));
  return new RegExp(
    `^(?:${any(list)})[\\s:.]*$|^(?:${inside})(?![\\p{L}\\p{N}])|(?<![\\p{L}\\p{N}])(?:${inside})[^\\p{L}\\p{N}]*$`,
    'iu',
  );
}

const TOTAL = atEnds([...words(TOTALS), ...words(MEANS), ...words(CARRIED)]);
const SUM = atEnds(words(TOTALS));
const NOTE = new RegExp(`^(?:${words(NOTES).map(escapeRegExp).join('|')})(?![\\p{L}])|^(?:[*†‡§¹²³]|\\(\\w\\))`, 'iu');

/** A total, mean or line that is carried forward, by what it says. */
export const saysTotal = (text: string): boolean => isShort(text) && TOTAL.test(text.trim());
export const saysSum = (text: string): boolean => isShort(text) && SUM.test(text.trim());
/** Between the same signs on both sides stands a heading. */
const FRAMED = /^([*=#~<>+|-]+)\s*\p{L}.*[*=#~<>+|-]$/u;
export const saysNote = (text: string): boolean => NOTE.test(text.trim()) && !FRAMED.test(text.trim());

/** What says that it is a total says little else. */
const MAX_LENGTH = 80;
const isShort = (text: string) => text.length <= MAX_LENGTH;

/** What columns of free text are called, by language. Common practice. */
const REMARKS =
  /^(?:remarks?|comments?|notes?|descriptions?|details|bemerkung(?:en)?|anmerkung(?:en)?|kommentare?|beschreibung|remarques?|commentaires?|observations?|observaci[oó]n(?:es)?|comentarios?|descripci[oó]n)$/iu;
export const namesRemarks = (name: string): boolean => REMARKS.test(name.trim());

/** Words of totals that stand in a text, as they are written there. */
export function totalWordIn(text: string): string | undefined {
  if (!isShort(text)) return undefined;
  return TOTAL.exec(text.trim())?.[0].replace(/\W+$/u, '');
}

/** What stands where a value is missing. */
const MISSING =
  /^(?:[-–—−.*…:x/?]{1,3}|n\/?a|n\.\s?a\.?|#n\/a|nan|null|none|nil|k\.?\s?a\.?|s\/?d|nd|n\.\s?d\.?|n\/d|s\.\s?d\.?|n\.\s?c\.?|nc|n\.\s?b\.?|fehlt|leer|missing|unknown|tbd|entf(?:ällt|\.)?)$/i;
export const meansMissing = (text: string): boolean => text.length <= 16 && MISSING.test(text.trim());

/** Units as reports write them under a name or beside a figure, in several languages. Common practice. */
const UNIT =
  /^\(?(?:%|€|\$|£|m[²³23]?|km|kg|t|l|hl|h|kwh|mwh|std\.?|stück|stk\.?|anzahl|number|no\.?|count|units?|eur|usd|gbp|chf|k€|t€|mio\.?(?: €| eur)?|in .{1,14}|tonnes?|tons?|litres?|liters?|hours?|heures?|horas?|nombre|número|unidades|n|pcs|persons?|personen|personnes|personas|days?|tage|jours|días)\)?$/i;
export const isUnit = (text: string): boolean => text.length <= 24 && UNIT.test(text.trim());
