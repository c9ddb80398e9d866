import { jobFromJobFile } from '../../stores/job-store.ts';

export interface DemoJob {
  /** Its job file is named by this. */
  id: string;
  name: string;
  about: string;
  file: string;
}

const FILES = import.meta.glob<string>('../../../demo/files/*', { query: '?url', import: 'default', eager: true });
const address = (name: string) => FILES[`../../../demo/files/${name}`]!;

export const DEMO_JOBS: readonly DemoJob[] = [
  {
    id: 'quay-returns',
    name: 'Quay returns, quarterly',
    about:
      'Four sheets with titles, a header of two rows, route labels and totals, to one row for each sailing and month',
    file: 'quay-returns-q2.xlsx',
  },
  {
    id: 'weighbridge',
    name: 'Weighbridge print-out',
    about: 'Fixed columns with a page head on each page, subtotals, blank grouping and trailing minus signs',
    file: 'weighbridge.prn',
  },
  {
    id: 'crossings',
    name: 'Crossings, printed',
    about: 'Pages of a PDF with heads and feet, remarks over several lines, and a total for each week',
    file: 'crossings.pdf',
  },
  {
    id: 'gate-log',
    name: 'Gate log',
    about: 'Lines with bracketed, quoted and counted pieces, read by a template; other lines set aside',
    file: 'gate.log',
  },
  {
    id: 'booking-export',
    name: 'Booking export',
    about: 'Semicolons, decimal commas, an old encoding, and rows with more or fewer cells than the header',
    file: 'booking-export.csv',
  },
  {
    id: 'manifest',
    name: 'Packed manifest',
    about: 'All records of a voyage on one line, one sign between records and another between their fields',
    file: 'manifest.txt',
  },
  {
    id: 'sailing-records',
    name: 'Sailing records',
    about: 'Nested text: bookings in sailings in quays, with fields that are only sometimes there',
    file: 'sailings.json',
  },
  {
    id: 'crew-list',
    name: 'Crew list',
    about: 'Blocks of lines with names and values, two on some lines, under a heading for each ship',
    file: 'crew-list.txt',
  },
  {
    id: 'fares-page',
    name: 'Fares on a web page',
    about: 'A table for each quay, a header of two rows with spans, and routes that span their tickets',
    file: 'fares.html',
  },
  {
    id: 'timetable-copy',
    name: 'Timetable copied from a print',
    about: 'Cells slipped to the right, the header again on each page, page numbers in between',
    file: 'timetable-copy.csv',
  },
  {
    id: 'monthly-files',
    name: 'Arrivals, twelve files',
    about: 'A file for each month in one archive, stacked, the month out of the name of the file',
    file: 'arrivals-2030.zip',
  },
  {
    id: 'targets',
    name: 'Targets against bookings',
    about: 'Targets by quarter laid wide, daily bookings laid long with coded kinds, joined to their variance',
    file: 'targets-2030.xlsx',
  },
  {
    id: 'plan-outturn',
    name: 'Plan against outturn',
    about: 'Two sheets in two layouts, thousands as K, a notes column, categories spelled in two ways',
    file: 'plan-outturn.xlsx',
  },
];

/** The report of a demo job on its own, as it would be dropped. */
export async function demoReport(demo: DemoJob): Promise<File> {
  return new File([await (await fetch(address(demo.file))).arrayBuffer()], demo.file);
}

/** Copies a demo job with its files into this browser. @returns its id */
export async function takeDemo(demo: DemoJob): Promise<string> {
  const text = await (await fetch(address(`${demo.id}.job.json`))).text();
  const { sources } = JSON.parse(text) as { sources: { id: string; file: { name: string } | null }[] };
  const files = new Map<string, Uint8Array<ArrayBuffer>>();
  for (const { id, file } of sources)
    files.set(id, new Uint8Array(await (await fetch(address(file?.name ?? demo.file))).arrayBuffer()));
  return jobFromJobFile(text, files);
}
