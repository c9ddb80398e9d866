import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize, sep } from 'node:path';
import { expect, test } from 'vitest';

/** The floors of the core, from the ground up; rooms of one floor leave each other alone (docs/architecture.md). */
const FLOORS = [
  ['table', 'formats', 'kernels'],
  ['values'],
  ['rows', 'formula', 'glance'],
  ['kinds'],
  ['rules', 'checks'],
  ['steps'],
  ['read', 'findings'],
  ['document', 'offers'],
  ['run'],
  ['write'],
  ['tally', 'sql'],
  ['release', 'draft'],
  ['compare'],
];

test('every import of the core leads down', () => {
  const floorOf = (room: string) => FLOORS.findIndex((rooms) => rooms.includes(room));
  const wrong: string[] = [];
  for (const room of FLOORS.flat())
    for (const name of readdirSync(join('core', room), { recursive: true, encoding: 'utf8' })) {
      if (!name.endsWith('.ts') || name.endsWith('.test.ts')) continue;
      const file = join('core', room, name);
      for (const [, path] of readFileSync(file, 'utf8').matchAll(/from '(\.[^']+)'/g)) {
        const [, other = ''] = normalize(join(dirname(file), path!)).split(sep);
        if (other !== room && floorOf(other) >= floorOf(room)) wrong.push(`${file} takes ${path}`);
      }
    }
  expect(wrong).toEqual([]);
});

test('every room of the core stands on a floor', () => {
  const rooms = readdirSync('core', { withFileTypes: true }).filter((entry) => entry.isDirectory());
  expect(rooms.map((entry) => entry.name).sort()).toEqual(FLOORS.flat().sort());
});
