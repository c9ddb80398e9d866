import { CellKind } from '../glance/table-profile.ts';
import { depthsOf } from '../steps/fill/levels.ts';
import { bodyOf } from './body.ts';
import type { Detector } from './finding.ts';

/** Levels told by how far texts stand in. */
export const indentation: Detector = {
  name: 'indentation',
  find(input) {
    const { profile } = input;
    const body = bodyOf(input);
    for (const column of body.keys) {
      if (column.counts[CellKind.text]! < profile.rows * 0.5) continue;
      const { depths, levels } = depthsOf(profile.table, column.index);
      if (levels < 2 || levels > 5) continue;
      const deep = depths.filter((depth) => depth > 0).length;
      const down = depths.filter((depth, r) => r > 0 && depth > depths[r - 1]! + 1).length;
      if (deep < profile.rows * 0.3 || down > deep * 0.1 || depths[0] !== 0) continue;
      const names =
        levels === 2
          ? ['Group']
          : levels === 3
            ? ['Section', 'Group']
            : Array.from({ length: levels - 1 }, (_, k) => `Level ${k + 1}`);
      return [
        {
          steps: [
            {
              kind: 'levels',
              params: { column: column.name, into: names, parents: 'set aside' },
              why: `texts in ${column.name} have ${levels} levels of indentation`,
            },
          ],
          weight: 2,
        },
      ];
    }
    return [];
  },
};
