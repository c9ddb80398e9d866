import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { ExportSpec, type Job, readJobFile } from '../../../core/index.ts';
import { type Box, placeNodes } from './place-nodes.ts';

const job = readJobFile(readFileSync('demo/files/targets.job.json', 'utf8'));

function overlap(a: Box, b: Box): boolean {
  return Math.abs(a.x - b.x) < (a.width + b.width) / 2 && Math.abs(a.y - b.y) < (a.height + b.height) / 2;
}

test('what feeds stands left of what it feeds, and nothing overlaps', () => {
  const out: Job = {
    ...job,
    tables: job.tables.map((table) => ({ ...table, export: ExportSpec.parse({ as: 'csv' }) })),
  };
  const map = placeNodes(out);
  expect(map.nodes.map(({ node }) => node.kind).sort()).toEqual([
    ...job.tables.map(() => 'export'),
    ...job.sources.map(() => 'source'),
    ...job.tables.map(() => 'table'),
  ]);
  for (const { from, to } of map.edges) expect(from.x + from.width / 2).toBeLessThan(to.x - to.width / 2);
  map.nodes.forEach((a, k) => {
    for (const b of map.nodes.slice(k + 1)) expect(overlap(a.box, b.box)).toBe(false);
    expect(a.box.x + a.box.width / 2).toBeLessThanOrEqual(map.width);
    expect(a.box.y + a.box.height / 2).toBeLessThanOrEqual(map.height);
  });
});
