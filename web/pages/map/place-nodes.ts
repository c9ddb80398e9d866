import { Graph, layout } from '@dagrejs/dagre';
import { type Job, jobMap, type MapEdge, type MapNode } from '../../../core/index.ts';

/** Sizes of what stands on the map, in CSS pixels before it is zoomed. */
const NODE = { width: 204, height: 92 };
const EXPORT = { width: 150, height: 40 };

export interface Box {
  /** Its middle. */
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface PlacedNode {
  node: MapNode | { kind: 'export'; id: string; name: string };
  box: Box;
}

export interface PlacedEdge {
  /** Undefined for the way to an export. */
  edge: MapEdge | undefined;
  from: Box;
  to: Box;
}

export interface PlacedMap {
  nodes: readonly PlacedNode[];
  edges: readonly PlacedEdge[];
  width: number;
  height: number;
}

/** Sources, tables and exports of a job from left to right, each behind what it needs. */
export function placeNodes(job: Job): PlacedMap {
  const { nodes, edges } = jobMap(job);
  const exports = job.tables.flatMap(({ id, name, export: out }) =>
    out === undefined ? [] : [{ kind: 'export' as const, id, name }],
  );
  const graph = new Graph({ multigraph: true });
  graph.setGraph({ rankdir: 'LR', nodesep: 26, ranksep: 116, marginx: 24, marginy: 24 });
  graph.setDefaultEdgeLabel(() => ({}));
  const keyOf = ({ kind, id }: { kind: string; id: string }) => `${kind}/${id}`;
  for (const node of nodes) graph.setNode(keyOf(node), { ...NODE });
  for (const node of exports) graph.setNode(keyOf(node), { ...EXPORT });
  edges.forEach((edge, k) => {
    graph.setEdge(keyOf(edge.from), keyOf(edge.to), {}, String(k));
  });
  for (const { id } of exports) graph.setEdge(`table/${id}`, `export/${id}`, {}, 'out');
  layout(graph);
  const boxOf = (node: { kind: string; id: string }): Box => {
    const { x, y, width, height } = graph.node(keyOf(node)) as Box;
    return { x, y, width, height };
  };
  const { width = 0, height = 0 } = graph.graph() as { width?: number; height?: number };
  return {
    nodes: [...nodes, ...exports].map((node) => ({ node, box: boxOf(node) })),
    edges: [
      ...edges.map((edge) => ({ edge, from: boxOf(edge.from), to: boxOf(edge.to) })),
      ...exports.map((node) => ({
        edge: undefined,
        from: boxOf({ kind: 'table', id: node.id }),
        to: boxOf(node),
      })),
    ],
    width,
    height,
  };
}
