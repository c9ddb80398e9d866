/** Names of the demo jobs as the shelf shows them, and of their truth files. */
export const DEMO_JOBS: readonly { name: string; truth: string }[] = [
  { name: 'Quay returns, quarterly', truth: 'quay-returns-q2' },
  { name: 'Weighbridge print-out', truth: 'weighbridge' },
  { name: 'Crossings, printed', truth: 'crossings' },
  { name: 'Gate log', truth: 'gate' },
  { name: 'Booking export', truth: 'booking-export' },
  { name: 'Packed manifest', truth: 'manifest' },
  { name: 'Sailing records', truth: 'sailings' },
  { name: 'Crew list', truth: 'crew-list' },
  { name: 'Fares on a web page', truth: 'fares' },
  { name: 'Timetable copied from a print', truth: 'timetable-copy' },
  { name: 'Arrivals, twelve files', truth: 'arrivals-2030' },
  { name: 'Targets against bookings', truth: 'targets-2030' },
  { name: 'Plan against outturn', truth: 'plan-outturn' },
];
