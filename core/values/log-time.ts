/** Times as logs write them: where one begins at a character, and where it ends. */

const CLOCK = '\\d{1,2}:\\d\\d(?::\\d\\d(?:[.,]\\d{1,9})?)?';
const FULL_CLOCK = '\\d{1,2}:\\d\\d:\\d\\d(?:[.,:]\\d{1,9})?';
/** Short words of logs that stand where the name of a zone may. */
const NO_ZONE = '(?!(?:INFO|WARN|CRIT|ERR|LOG|HINT|FAIL|NOTE|DBG|OK|OPEN|PASS|DONE|EXIT)\\b)';
const ZONE = `(?: ?(?:Z|UTC|GMT|${NO_ZONE}[A-Z]{3,4}|[+-]\\d\\d:?\\d\\d)\\b)?`;
/** Short names of months in Western languages, some with an accent or a point (déc, févr.). */
const MONTH = '[A-Za-zÀ-ÿ][a-zà-ÿ]{2,4}\\.?';
const DAY_NAME = '(?:Mon|Tue|Wed|Thu|Fri|Sat|Sun)';

/**
 * ISO 8601 and RFC 3339, RFC 3164 (syslog), the common log format of the NCSA server, asctime of ISO C, RFC 9110 dates,
 * and the usual orders of day, month and year with a clock; a bare number of seconds since 1970. All are fixed in
 * length but for single optional digits, so matching does not backtrack.
 */
const FORMS: readonly RegExp[] = [
  `\\d{4}[-/.:]\\d\\d[-/.:]\\d\\d[T _-]{1,2}${CLOCK}${ZONE}`,
  `\\d{1,2}/${MONTH}/\\d{4}[: ]${FULL_CLOCK}(?: [+-]\\d{4})?`,
  `${DAY_NAME},? ${MONTH} {1,2}\\d{1,2} ${FULL_CLOCK}(?: [A-Z]{3,4})?(?: \\d{4})?`,
  `${DAY_NAME}, \\d{1,2} ${MONTH} \\d{4} ${FULL_CLOCK}${ZONE}`,
  `(?:\\d{4} )?${MONTH} {1,2}\\d{1,2},?(?: \\d{4})?,? ${FULL_CLOCK}(?: ?[AP]M\\b)?${ZONE}`,
  `\\d{1,2}[ -]${MONTH}[ -]\\d{2,4} ${FULL_CLOCK}${ZONE}`,
  `\\d{1,2} ${MONTH} ${FULL_CLOCK}${ZONE}`,
  `\\d\\d-\\d\\d ${CLOCK}`,
  `${MONTH}-\\d{1,2}-\\d{2,4} ${FULL_CLOCK}`,
  `\\d{1,2}[-/.]\\d{1,2}[-/.]\\d{2,4},? ${CLOCK}(?: ?[AP]M\\b)?${ZONE}`,
  `\\d{6,8}[ T-] ?${FULL_CLOCK}`,
  `\\d{8}T\\d{6}Z?`,
  `[A-Z]{3,4} ${MONTH} {1,2}\\d{1,2} ${FULL_CLOCK}`,
  `\\d{10}(?:\\.\\d{1,9})?\\b`,
  FULL_CLOCK,
].map((form) => new RegExp(form, 'y'));

/** The character behind the time that begins at a character, or -1 where none does. */
export function timeAt(text: string, at: number): number {
  for (const form of FORMS) {
    form.lastIndex = at;
    if (form.test(text)) {
      const end = form.lastIndex;
      // A number that goes on is no time.
      if (!/[\p{L}\d]/u.test(text[end] ?? '')) return end;
    }
  }
  return -1;
}
