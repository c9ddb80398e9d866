import { monthsAmong } from '../values/month-names.ts';

/** What names stand for that are values rather than names of what is measured. */
export type NameKind = 'year' | 'month' | 'quarter' | 'half' | 'week' | 'date' | 'day' | 'class';

const YEAR =
  /^(?:(?:FY|GJ|WJ|ejercicio|exercice|année|año|Jahr|year|season|saison|temporada)\s?)?'?(?:1[89]|20|21)\d\d(?:\s?[-/–]\s?(?:\d\d|(?:1[89]|2[01])\d\d))?(?:\s?(?:[*†‡]|\((?:\p{L}{1,2}|\d)\)|[prbe]))?$|^FY\s?\d\d$/iu;
const QUARTER =
  /^(?:Q[1-4]|[1-4]Q|T[1-4]|[1-4]\.?\s?(?:Quartal|Qu\.?|Q\.?|quarter|qtr|trimestre|trim\.?)|[1-4](?:st|nd|rd|th|er|e|ème|º|\.º|\.er|\.e|o|a)\.?\s?(?:quarter|trimestre|trim\.?|qtr)|(?:first|second|third|fourth) quarter|(?:premier|deuxième|troisième|quatrième) trimestre|(?:primer|segundo|tercer|cuarto) trimestre|quarter [1-4]|trimestre [1-4]|(?:I|II|III|IV)\.?\s?(?:Quartal|trimestre|quarter))(?:[\s/-]*'?(?:\d\d|\d{4}))?$|^(?:\d{4})[\s/-]?(?:Q|T)[1-4]$/iu;
const HALF =
  /^(?:H[12]|[12]H|S[12]|[12]\.?\s?(?:Halbjahr|Hj\.?|half|semestre|sem\.?)|[12](?:st|nd|er|e|º|\.º|\.er|\.e|ème|o)\.?\s?(?:half(?: year)?|semestre)|(?:first|second) half(?:[ -]year)?|(?:primer|segundo) semestre|(?:premier|second) semestre)(?:[\s/-]*'?(?:\d\d|\d{4}))?$|^\d{4}[\s/-]?(?:H|S)[12]$/iu;
const WEEK =
  /^(?:(?:calendar )?weeks?|wk|w|kw|woche|semaine|sem\.?|s|semana)\.?\s?\d{1,2}(?:[\s/-]*\d{2,4})?$|^\d{4}-?W\d\d$/iu;
const DATE = /^\d{1,4}[./-]\d{1,2}[./-]\d{1,4}(?:[T ]\d\d:\d\d.*)?$|^\d{4}-\d\d$|^\d{1,2}[./]\d{4}$/;
const CLASS =
  /^(?:<|>|≤|≥|under|over|unter|über|ab|bis|moins de|plus de|menos de|más de)?\s?\d{1,3}(?:\s?(?:[-–]|to|bis|à|a)\s?\d{1,3}|\s?\+|\s?(?:and over|and more|und mehr|und älter|et plus|y más))(?:\s?\p{L}{1,8})?$|^(?:<|>|≤|≥|under|over|unter|über|bis|moins de|plus de|menos de|más de)\s?\d{1,6}(?:\s?\p{L}{1,8})?$/iu;
const DAYS =
  'monday tuesday wednesday thursday friday saturday sunday montag dienstag mittwoch donnerstag freitag samstag sonntag lundi mardi mercredi jeudi vendredi samedi dimanche lunes martes miércoles jueves viernes sábado domingo lunedì martedì mercoledì giovedì venerdì sabato domenica'.split(
    ' ',
  );
const SHORT_DAYS =
  'mon tue wed thu fri sat sun mo di mi do fr sa so lu ma me je ve di lun mar mié jue vie sáb dom'.split(' ');

/** What each of some names stands for; undefined for names of what is measured. */
export function nameKinds(names: readonly string[]): (NameKind | undefined)[] {
  const months = monthsAmong(names);
  const plain = names.map((name) => name.trim());
  const byMonth = areYearMonths(plain);
  const counts = countedNames(plain);
  const areSizes = plain.length >= MIN_SIZES && plain.every((name) => SIZE.test(name));
  const short = plain.filter((name) => SHORT_DAYS.includes(name.toLowerCase().replace('.', ''))).length;
  return plain.map((name, k) => {
    if (byMonth) return 'month';
    if (counts !== undefined && WHOLE.test(name)) return counts;
    if (YEAR.test(name)) return 'year';
    if (QUARTER.test(name)) return 'quarter';
    if (HALF.test(name)) return 'half';
    if (months[k]) return 'month';
    if (DATE.test(name)) return 'date';
    if (WEEK.test(name)) return 'week';
    const lower = name.toLowerCase().replace('.', '');
    if (DAYS.includes(lower) || (short >= 4 && SHORT_DAYS.includes(lower))) return 'day';
    return areSizes || CLASS.test(name) ? 'class' : undefined;
  });
}

/** Sizes of clothing; a letter alone may stand for anything. */
const SIZE = /^(?:X{0,3}S|M|X{0,3}L|[2-5]XL)$/i;
const MIN_SIZES = 3;
const WHOLE = /^\d{1,2}$/;
const MIN_COUNTED = 4;

/** Numbers that count up one by one over the columns: the days of a month, its months, or classes. */
function countedNames(names: readonly string[]): NameKind | undefined {
  const numbers = names.filter((name) => WHOLE.test(name)).map(Number);
  if (numbers.length < MIN_COUNTED || numbers.some((value, k) => k > 0 && value !== numbers[k - 1]! + 1))
    return undefined;
  const [first, last] = [numbers[0]!, numbers.at(-1)!];
  return first === 1 && last >= 28 && last <= 31 ? 'day' : first === 1 && last === 12 ? 'month' : 'class';
}

/** 2030-01, 2030-02: a year that stands with several numbers up to twelve is no year of two calendar years. */
function areYearMonths(names: readonly string[]): boolean {
  if (!names.every((name) => /^(?:19|20)\d\d-(?:0[1-9]|1[0-2])$/.test(name))) return false;
  return new Set(names.map((name) => name.slice(0, 4))).size < new Set(names).size;
}

const COLUMN: Record<NameKind, string> = {
  year: 'Year',
  month: 'Month',
  quarter: 'Quarter',
  half: 'Half-year',
  week: 'Week',
  date: 'Date',
  day: 'Day',
  class: 'Class',
};

/** What a column of such values is called. */
export function columnOfKinds(kinds: readonly (NameKind | undefined)[]): string {
  const found = new Set(kinds.filter((kind) => kind !== undefined));
  if (found.size === 1) return COLUMN[[...found][0]!];
  return found.size === 0 ? 'Kind' : 'Period';
}
