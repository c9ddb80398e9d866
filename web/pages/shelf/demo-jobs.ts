import gateLog from '../../../demo/files/gate.log?url';
import gateJob from '../../../demo/files/gate-log.job.json?url';
import quayJob from '../../../demo/files/quay-returns.job.json?url';
import quayWorkbook from '../../../demo/files/quay-returns-q2.xlsx?url';
import weighJob from '../../../demo/files/weighbridge.job.json?url';
import weighPrint from '../../../demo/files/weighbridge.prn?url';
import { jobFromJobFile } from '../../stores/job-store.ts';

export interface DemoJob {
  name: string;
  about: string;
  file: string;
  job: string;
  /** Address of the file of each source. */
  sources: Record<string, string>;
}

export const DEMO_JOBS: readonly DemoJob[] = [
  {
    name: 'Quay returns, quarterly',
    about:
      'Four sheets with titles, a header of two rows, route labels and totals, to one row for each sailing and month',
    file: 'quay-returns-q2.xlsx',
    job: quayJob,
    sources: { 'quay-returns': quayWorkbook },
  },
  {
    name: 'Weighbridge print-out',
    about: 'Fixed columns with a page head on each page, subtotals, blank grouping and trailing minus signs',
    file: 'weighbridge.prn',
    job: weighJob,
    sources: { weighbridge: weighPrint },
  },
  {
    name: 'Gate log',
    about: 'Lines with bracketed, quoted and counted pieces, read by a template; other lines set aside',
    file: 'gate.log',
    job: gateJob,
    sources: { 'gate-log': gateLog },
  },
];

/** Copies a demo job with its files into this browser. @returns its id */
export async function takeDemo(demo: DemoJob): Promise<string> {
  const text = await (await fetch(demo.job)).text();
  const sources = new Map<string, Uint8Array>();
  for (const [id, address] of Object.entries(demo.sources)) {
    sources.set(id, new Uint8Array(await (await fetch(address)).arrayBuffer()));
  }
  return jobFromJobFile(text, sources);
}
