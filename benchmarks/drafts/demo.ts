/** The demo's reports drafted from their files, and the drafted methods on the reports of later quarters. */
import papaparse from 'papaparse';
import { type Draft, draftsOf, Runner } from '../../core/index.ts';
import { DEMOS } from '../../demo/all.ts';
import { demoFiles } from '../../demo/demo-job.ts';
import { laterReports } from '../../demo/later.ts';
import { differs, type Truth, truthOf } from './same-table.ts';

function truthFrom(csv: string): Truth {
  const [names = [], ...rows] = papaparse.parse<string[]>(csv, { skipEmptyLines: true }).data;
  return { names, rows };
}

export interface DemoDraft {
  demo: string;
  draft: Draft | undefined;
  /** It gives the truth of the job's last table, from the first file alone. */
  right: boolean;
}

export function draftDemos(): DemoDraft[] {
  return Object.entries(DEMOS).map(([demo, make]) => {
    const made = make();
    const [first] = demoFiles(made);
    const [draft] = draftsOf(
      'report',
      { name: first!.file, bytes: first!.bytes },
      { progress: () => undefined },
      { most: 1 },
    );
    const right =
      draft !== undefined && differs(truthOf(draft.run.steps.at(-1)!.table), truthFrom(made.truth)) === undefined;
    return { demo, draft, right };
  });
}

export interface LaterDraft {
  demo: string;
  change: string;
  found: 'right' | 'stops' | 'other';
}

/** Drafted methods that give the truth, run as they are on later reports. */
export function laterDrafts(drafted: readonly DemoDraft[]): LaterDraft[] {
  const right = new Map(
    drafted.flatMap(({ demo, draft, right: own }) => (own && draft !== undefined ? [[demo, draft] as const] : [])),
  );
  return laterReports().flatMap(({ demo, change, made }) => {
    const draft = right.get(demo);
    if (draft === undefined) return [];
    const runner = new Runner();
    const [first] = demoFiles(made);
    runner.setSource('report', { name: first!.file, bytes: first!.bytes });
    const run = runner.run(
      draft.steps.map(({ kind, params }, k) => ({ id: `s${k}`, kind, params })),
      { progress: () => undefined },
    );
    const found =
      run.stop !== undefined
        ? ('stops' as const)
        : differs(truthOf(run.steps.at(-1)!.table), truthFrom(made.truth)) === undefined
          ? ('right' as const)
          : ('other' as const);
    return [{ demo, change, found }];
  });
}
