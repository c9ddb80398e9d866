/** Month names by language, from Unicode CLDR (Gregorian calendar, wide and abbreviated formats), from memory. */
const NAMES: Record<string, string> = {
  en: 'January February March April May June July August September October November December',
  de: 'Januar Februar März April Mai Juni Juli August September Oktober November Dezember',
  fr: 'janvier février mars avril mai juin juillet août septembre octobre novembre décembre',
  es: 'enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre',
  it: 'gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre',
  pt: 'janeiro fevereiro março abril maio junho julho agosto setembro outubro novembro dezembro',
  nl: 'januari februari maart april mei juni juli augustus september oktober november december',
  da: 'januar februar marts april maj juni juli august september oktober november december',
  no: 'januar februar mars april mai juni juli august september oktober november desember',
  sv: 'januari februari mars april maj juni juli augusti september oktober november december',
  pl: 'stycznia lutego marca kwietnia maja czerwca lipca sierpnia września października listopada grudnia',
};

const EXTRA: Record<string, [string, number][]> = {
  en: [['sept', 9]],
  fr: [
    ['janv', 1],
    ['févr', 2],
    ['avr', 4],
    ['juil', 7],
  ],
  de: [
    ['jänner', 1],
    ['mrz', 3],
  ],
  nl: [['mrt', 3]],
};

export const LANGUAGES: readonly string[] = Object.keys(NAMES);

function plain(name: string): string {
  return name.normalize('NFD').replace(/\p{M}/gu, '').replace(/\.$/, '').toLowerCase();
}

function entries(language: string): [string, number][] {
  const words = NAMES[language]!.split(' ');
  const given: [string, number][] = [];
  words.forEach((word, k) => {
    for (const length of [word.length, 3, 4]) given.push([plain(word.slice(0, length)), k + 1]);
  });
  for (const [word, month] of EXTRA[language] ?? []) given.push([plain(word), month]);
  return given;
}

const tables = new Map<string, Map<string, number>>();

function tableFor(language: string): Map<string, number> {
  let table = tables.get(language);
  if (table === undefined) {
    table = new Map();
    // English first, so that in 'any' a three-letter form that two languages share keeps the English month.
    for (const code of language === 'any' ? LANGUAGES : [language]) {
      const seen = new Map<string, number | undefined>();
      for (const [word, month] of entries(code)) {
        seen.set(word, seen.has(word) && seen.get(word) !== month ? undefined : month);
      }
      for (const [word, month] of seen) if (month !== undefined && !table.has(word)) table.set(word, month);
    }
    tables.set(language, table);
  }
  return table;
}

/** 1 to 12, or undefined; case, accents and a closing point do not matter. */
export function monthNumber(name: string, language: string): number | undefined {
  return (language === 'any' || language in NAMES ? tableFor(language) : undefined)?.get(plain(name));
}

/** A month alone, or with a year, a day or a point behind or before it: 'May', 'May 2031', '31-Jan', 'janv.'. */
const MONTH_AND_FIGURES = /^(?:\d{1,4}[\s./-]*)?([\p{L}\p{M}]+)\.?(?:[\s./'’-]*\d{1,4})?$/u;

/**
 * Which of the names are months, in the one language that most of them are in: 'Set' is one among Italian or Portuguese
 * months, and none beside English ones. A short name that stands alone is a month only in English.
 */
export function monthsAmong(names: readonly string[]): boolean[] {
  const words = names.map((name) => MONTH_AND_FIGURES.exec(name.trim())?.[1]);
  let best: string | undefined;
  let most = 0;
  for (const language of LANGUAGES) {
    const months = new Set(words.map((word) => (word === undefined ? undefined : monthNumber(word, language))));
    months.delete(undefined);
    const full = words.some((word) => word !== undefined && tableNames(language).has(plain(word)));
    if (months.size > most && (months.size > 1 || full || language === 'en')) [best, most] = [language, months.size];
  }
  return words.map((word) => word !== undefined && best !== undefined && monthNumber(word, best) !== undefined);
}

function tableNames(language: string): Set<string> {
  return new Set(NAMES[language]!.split(' ').map(plain));
}

export function monthNames(language: string, short: boolean): string[] {
  const words = (NAMES[language] ?? NAMES['en']!).split(' ');
  return short ? words.map((word) => word.slice(0, 3)) : words;
}
