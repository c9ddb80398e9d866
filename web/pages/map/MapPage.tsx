import { Graph, layout } from '@dagrejs/dagre';
import { useEffect, useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { EXPORT_FORMATS, fullTables, grouped, type Job, jobMap, type MapEdge, sizeText } from '../../../core/index.ts';
import type { TableState } from '../../engine/protocol.ts';
import { JobPage, OpenedJob } from '../../parts/JobPage.tsx';
import { useJobStore } from '../../stores/job-store.ts';
import { keyOf, useEngineQuery } from '../../stores/use-engine-query.ts';
import styles from './map.module.css';

const NONE: readonly TableState[] = [];
const NODE = { width: 196, height: 74 };

/** The map of a job: its sources and tables, and what feeds what. */
export function MapPage() {
  return <OpenedJob page={JobMapPage} />;
}

interface Placed {
  x: number;
  y: number;
}

/** Laid out from left to right, each node behind what it needs. */
function placeNodes(job: Job) {
  const { nodes, edges } = jobMap(job);
  const graph = new Graph({ multigraph: true });
  graph.setGraph({ rankdir: 'LR', nodesep: 26, ranksep: 96, marginx: 24, marginy: 24 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const node of nodes) graph.setNode(`${node.kind}/${node.id}`, { ...NODE });
  edges.forEach((edge, k) => {
    graph.setEdge(`${edge.from.kind}/${edge.from.id}`, `${edge.to.kind}/${edge.to.id}`, {}, String(k));
  });
  layout(graph);
  const at = (id: string): Placed => {
    const { x, y } = graph.node(id) as Placed;
    return { x, y };
  };
  const { width = 0, height = 0 } = graph.graph() as { width?: number; height?: number };
  return { nodes: nodes.map((node) => ({ node, at: at(`${node.kind}/${node.id}`) })), edges, width, height };
}

function JobMapPage({ job }: { job: Job }) {
  const missing = useJobStore((store) => store.missing);
  const navigate = useNavigate();
  useEffect(() => {
    document.title = `Map of ${job.name} · Rimefield`;
  }, [job.name]);
  const { data: states = NONE } = useEngineQuery(
    ['states', keyOf(job), keyOf(missing)],
    (engine) => engine.combining.states(fullTables(job)),
    { keep: true },
  );
  const map = useMemo(() => placeNodes(job), [job]);
  const show = (table: string, step?: number) => {
    const last = job.tables.find((one) => one.id === table)!.steps.length - 1;
    navigate(`/jobs/${job.id}`, { state: { table, step: step === last ? undefined : step } });
  };
  return (
    <JobPage
      job={job}
      acts={
        <>
          <span className={styles.about}>
            {job.sources.length === 1 ? '1 source' : `${job.sources.length} sources`},{' '}
            {job.tables.length === 1 ? '1 table' : `${job.tables.length} tables`}
          </span>
          <Link to={`/jobs/${job.id}`} className={styles.back}>
            To the bench
          </Link>
        </>
      }
    >
      <main className={styles.sheet}>
        <div className={styles.map} style={{ width: map.width, height: map.height }}>
          <svg width={map.width} height={map.height} aria-hidden="true">
            {map.edges.map((edge, k) => (
              <Arrow key={k} edge={edge} nodes={map.nodes} />
            ))}
          </svg>
          <ul>
            {map.nodes.map(({ node, at }) => {
              const place = { left: at.x - NODE.width / 2, top: at.y - NODE.height / 2, ...NODE };
              if (node.kind === 'source') {
                const source = job.sources.find((one) => one.id === node.id)!;
                const gone = missing[node.id];
                return (
                  <li key={`s/${node.id}`} className={`${styles.node} ${styles.source}`} style={place}>
                    <b>{node.name}</b>
                    <span>{source.file?.name ?? 'no file yet'}</span>
                    <span className={gone === undefined ? undefined : styles.wrong}>
                      {gone === undefined
                        ? source.file === null
                          ? ''
                          : sizeText(source.file.size)
                        : 'not in this browser'}
                    </span>
                  </li>
                );
              }
              const state = states.find((one) => one.id === node.id);
              const out = job.tables.find((one) => one.id === node.id)?.export;
              const fed = map.edges.filter((edge) => edge.to.id === node.id && edge.to.kind === 'table');
              return (
                <li key={`t/${node.id}`} className={styles.node} style={place}>
                  <button
                    type="button"
                    onClick={() => show(node.id)}
                    title={fed.map((edge) => `step ${edge.step + 1}: ${edge.how} (${edge.from.name})`).join('\n')}
                  >
                    <b>{node.name}</b>
                    <span>
                      {state === undefined
                        ? 'running …'
                        : `${grouped(state.rows)} rows × ${state.columns} columns, ${state.steps} steps`}
                    </span>
                    {state?.stop !== undefined ? (
                      <span className={styles.wrong}>stops at step {state.stop.index + 1}</span>
                    ) : (
                      state !== undefined && (
                        <span className={state.looks > 0 ? styles.look : styles.good}>
                          {state.looks === 0
                            ? 'nothing to check'
                            : `${state.looks} ${state.looks === 1 ? 'thing wants' : 'things want'} a look`}
                          {out !== undefined && <i> · out as .{EXPORT_FORMATS[out.as].ending}</i>}
                        </span>
                      )
                    )}
                  </button>
                </li>
              );
            })}
          </ul>
          {map.edges.map((edge, k) => {
            const [from, to] = endsOf(edge, map.nodes);
            if (edge.from.kind === 'source') return null;
            return (
              <button
                key={k}
                type="button"
                className={styles.how}
                style={{ left: (from.x + to.x) / 2, top: (from.y + to.y) / 2 }}
                onClick={() => show(edge.to.id, edge.step)}
              >
                {edge.how}
              </button>
            );
          })}
        </div>
      </main>
    </JobPage>
  );
}

type Nodes = ReturnType<typeof placeNodes>['nodes'];

function endsOf(edge: MapEdge, nodes: Nodes): [Placed, Placed] {
  const find = (end: MapEdge['from']) => nodes.find(({ node }) => node.kind === end.kind && node.id === end.id)!.at;
  return [find(edge.from), find(edge.to)];
}

function Arrow({ edge, nodes }: { edge: MapEdge; nodes: Nodes }) {
  const [from, to] = endsOf(edge, nodes);
  const [x1, x2] = [from.x + NODE.width / 2, to.x - NODE.width / 2 - 6];
  const middle = (x1 + x2) / 2;
  return (
    <g className={styles.arrow}>
      <path d={`M ${x1} ${from.y} C ${middle} ${from.y}, ${middle} ${to.y}, ${x2} ${to.y}`} />
      <path className={styles.head} d={`M ${x2 + 6} ${to.y} l -7 -4 v 8 z`} />
    </g>
  );
}
