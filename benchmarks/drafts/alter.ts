/**
 * The share of altered copies whose draft gives the same table, by alteration.
 *
 *   npm run draft:alter -- FILE.xlsx ...
 */
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { cellText, draftsOf, openSource, type Table } from '../../core/index.ts';
import { ALTERATIONS, altered } from './alterations.ts';

/** The rows of a drafted table as texts, whatever their order; undefined without a draft. */
async function drafted(bytes: Uint8Array, name: string): Promise<string | undefined> {
  await openSource(bytes, name);
  const [draft] = draftsOf('s', { name, bytes }, { progress: () => undefined }, { most: 1 });
  return draft && rowsOf(draft.run.steps.at(-1)!.table);
}

function rowsOf({ rows, fields }: Table): string {
  const lines = Array.from({ length: rows }, (_, r) =>
    fields.map(({ column }) => (cellText(column, r) ?? '').toLowerCase()).join('\t'),
  );
  return lines.sort().join('\n');
}

const counts = new Map(ALTERATIONS.map(({ name }) => [name, { same: 0, of: 0, changed: [] as string[] }]));
for (const path of process.argv.slice(2)) {
  const bytes = new Uint8Array(readFileSync(path));
  const before = await drafted(bytes, basename(path));
  if (before === undefined) continue;
  for (const alteration of ALTERATIONS) {
    const other = altered(bytes, alteration);
    if (other === undefined) continue;
    const count = counts.get(alteration.name)!;
    count.of++;
    if ((await drafted(other, basename(path))) === before) count.same++;
    else count.changed.push(path.split('/').slice(-2).join('/'));
  }
}
for (const [name, { same, of, changed }] of counts)
  if (of > 0)
    process.stdout.write(
      `${name}: ${same} of ${of} (${Math.round((100 * same) / of)}%)${changed.length === 0 ? '' : `; other tables for ${changed.slice(0, 6).join(', ')}`}\n`,
    );
