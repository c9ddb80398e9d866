/** Clicks, drags, and keys other than typed words that build each demo job from its dropped file. */
export const ACTIONS: Readonly<Record<string, number>> = {
  'booking-export': 8,
  'quay-returns': 28,
  weighbridge: 25,
  'sailing-records': 20,
  'plan-outturn': 41,
  targets: 41,
  manifest: 13,
  'gate-log': 19,
  'timetable-copy': 12,
  'monthly-files': 13,
  'crew-list': 11,
  'fares-page': 14,
  crossings: 11,
};

/**
 * The same from the dropped file with its draft. Enter that keeps the first draft is not counted; whatever is done besides
 * is. What the report does not say, as the names of some columns, is not asked for.
 */
export const DRAFTED: Readonly<Record<string, number>> = {
  'booking-export': 0,
  'quay-returns': 0,
  weighbridge: 0,
  'sailing-records': 0,
  'plan-outturn': 13,
  targets: 26,
  manifest: 0,
  'gate-log': 4,
  'timetable-copy': 0,
  'monthly-files': 0,
  'crew-list': 0,
  'fares-page': 0,
  crossings: 0,
};
