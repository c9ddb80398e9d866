import { tablesIn } from '../kinds/param-marks.ts';
import { FROM_TABLE } from '../read/from-table.ts';
import { READING_WORDS } from '../read/words.ts';
import { STEP_WORDS } from '../steps/words.ts';
import type { Job, JobStep } from './job.ts';
import { USE_SET } from './step-set.ts';

export interface MapNode {
  kind: 'source' | 'table';
  id: string;
  name: string;
}

/** What feeds a table. */
export interface MapEdge {
  from: MapNode;
  to: MapNode;
  /** Index of the step of the table that takes it. */
  step: number;
  /** How it is taken, in words. */
  how: string;
}

export interface JobMap {
  nodes: readonly MapNode[];
  edges: readonly MapEdge[];
}

/** Sources and tables of a job, and what feeds what. What a step names that is not there is left out. */
export function jobMap(job: Job): JobMap {
  const sources = job.sources.map(({ id, name }): MapNode => ({ kind: 'source', id, name }));
  const tables = job.tables.map(({ id, name }): MapNode => ({ kind: 'table', id, name }));
  const edges = job.tables.flatMap((table, t) =>
    table.steps.flatMap((step, index) =>
      innerSteps(job, step).flatMap((one): MapEdge[] => {
        const to = tables[t]!;
        if (READING_WORDS.has(one.kind)) {
          const from = sources.find((source) => source.id === one.params['source']);
          return from === undefined ? [] : [{ from, to, step: index, how: 'reads it' }];
        }
        return tablesOf(one).flatMap((id) => {
          const from = tables.find((other) => other.id === id);
          return from === undefined
            ? []
            : [
                {
                  from,
                  to,
                  step: index,
                  how:
                    one.kind === FROM_TABLE
                      ? 'starts from it'
                      : (STEP_WORDS.get(one.kind)?.otherTableVerb ?? 'uses it'),
                },
              ];
        });
      }),
    ),
  );
  return { nodes: [...sources, ...tables], edges };
}

function innerSteps(job: Job, step: JobStep): readonly JobStep[] {
  if (step.kind !== USE_SET) return [step];
  return job.sets?.find((set) => set.id === step.params['set'])?.steps ?? [];
}

/** Ids of the tables that a step reads. */
function tablesOf(step: JobStep): readonly string[] {
  if (step.kind === FROM_TABLE) return [String(step.params['table'])];
  const kind = STEP_WORDS.get(step.kind);
  if (kind?.otherTableVerb === undefined) return [];
  const params = kind.params.safeParse(step.params);
  return params.success ? tablesIn(kind.params, params.data) : [];
}

/** Tables that a table needs, itself among them, by id. */
export function neededTables(job: Job, tableId: string): ReadonlySet<string> {
  const { edges } = jobMap(job);
  const found = new Set([tableId]);
  for (const id of found)
    for (const edge of edges) if (edge.to.id === id && edge.from.kind === 'table') found.add(edge.from.id);
  return found;
}
