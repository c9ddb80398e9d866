import { CellKind } from '../glance/table-profile.ts';
import { few } from '../values/counted.ts';
import { leadsWithZero } from '../values/number-text.ts';
import type { Detector } from './finding.ts';

/** Codes of digits with zeros in front, which a number would lose. */
export const codes: Detector = {
  name: 'codes',
  find({ profile }) {
    const held = profile.columns.filter((column) => {
      if (profile.table.fields[column.index]!.column.type !== 'received') return false;
      const filled = profile.rows - column.counts[CellKind.blank]!;
      return filled > 1 && column.texts.some((text) => /^\d+$/.test(text) && leadsWithZero(text));
    });
    if (held.length === 0) return [];
    const names = held.map((column) => column.name);
    return [
      {
        steps: [
          {
            kind: 'set-types',
            params: { types: [{ columns: { by: 'names', names }, type: 'text' }] },
            why: `${few(names)} ${names.length === 1 ? 'has' : 'have'} zeros in front: kept as text, so none is lost`,
          },
        ],
        weight: 0.6,
      },
    ];
  },
};
