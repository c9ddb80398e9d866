/** Clicks, drags, and keys other than typed words that build each demo job from its dropped file. */
export const ACTIONS: Readonly<Record<string, number>> = {
  'booking-export': 8,
  'quay-returns': 28,
  weighbridge: 25,
  'sailing-records': 20,
  'plan-outturn': 42,
  targets: 41,
  manifest: 13,
  'gate-log': 19,
  'timetable-copy': 12,
  'monthly-files': 13,
  'crew-list': 11,
  'fares-page': 14,
};
