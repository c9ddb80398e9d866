import * as aq from 'arquero';
import { type Data, MONTHS } from './data.ts';
import type { Operations } from './operations.ts';

/** The same in arquero, with its own verbs. */
export function arqueroOperations(data: Data): Operations {
  const numbers = Object.fromEntries(MONTHS.map((month) => [month, data.numbers[month]]));
  const table = aq.table({ ...data.text, ...numbers });
  const written = aq.table({ written: data.written });
  const keys = aq.table({ packed: data.keys.packed, fare: data.keys.fare });
  const whole = (made: aq.ColumnTable) => made.reify().numRows();
  let long: aq.ColumnTable | undefined;
  return {
    unpivot: () => {
      long = undefined;
      long = table.fold([...MONTHS], { as: ['month', 'foot'] });
      return long.numRows();
    },
    pivot: () =>
      whole(
        (long ?? table.fold([...MONTHS], { as: ['month', 'foot'] }))
          .groupby('code', 'port', 'route', 'packed')
          .pivot('month', 'foot'),
      ),
    'fill down': () =>
      whole(table.derive({ port: aq.rolling((d: { port: string }) => aq.op.fill_down(d.port)) as never })),
    'split in three': () =>
      whole(
        table.derive({
          a: aq.escape((row: { packed: string }) => row.packed.split('-')[0]),
          b: aq.escape((row: { packed: string }) => row.packed.split('-')[1]),
          c: aq.escape((row: { packed: string }) => row.packed.split('-')[2]),
        }),
      ),
    replace: () =>
      whole(table.derive({ packed: aq.escape((row: { packed: string }) => row.packed.replaceAll('-', '/')) })),
    'set types from text': () =>
      whole(
        written.derive({ written: aq.escape((row: { written: string }) => Number(row.written.replaceAll(',', ''))) }),
      ),
    'group by three': () =>
      whole(table.groupby('route', 'port', 'packed').rollup({ s: aq.op.sum('Jan'), m: aq.op.mean('Feb') })),
    'join to 40,000 keys': () => whole(table.join_left(keys, 'packed')),
    'sort by two': () => whole(table.orderby('route', aq.desc('Jan'))),
  };
}
