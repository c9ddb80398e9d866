import { brief } from '../../values/text.ts';
import { UnpackBudget } from '../archive.ts';
import { OpenedSources } from '../opened.ts';
import { ReadFailure } from '../read-failure.ts';
import type { Source } from '../read-kind.ts';
import type { OpenedTable } from './opened-table.ts';

const tables = new OpenedSources<readonly OpenedTable[]>();

/** Reads the tables of a Parquet or Arrow file or an SQLite database, so that they are there when it is read. */
export function openTables(bytes: Uint8Array, file: string): Promise<void> {
  return tables.open(bytes, async () => {
    try {
      return await tablesIn(bytes, file);
    } catch (error) {
      throw error instanceof ReadFailure ? error : damaged(file, error as Error);
    }
  });
}

async function tablesIn(bytes: Uint8Array, file: string): Promise<OpenedTable[]> {
  const name = file.replace(/^.*\//, '').replace(/\.[^.]+$/, '');
  const front = String.fromCharCode(...bytes.subarray(0, 6));
  // What reads each comes with the first file of its kind.
  if (front.startsWith('PAR1')) {
    const { parquetTable } = await import('./open-parquet.ts');
    return [await parquetTable(bytes, file, name, UnpackBudget.for(bytes))];
  }
  if (front === 'ARROW1') {
    const { arrowTable } = await import('./open-arrow.ts');
    return [await arrowTable(bytes, name)];
  }
  const { sqliteTables } = await import('./open-sqlite.ts');
  return sqliteTables(bytes, file);
}

function damaged(file: string, error: Error): ReadFailure {
  const why = brief(error.message.replace(/\.$/, ''));
  return new ReadFailure(file, `${file} cannot be read: ${why}. It may be damaged or cut off; ask for it again.`);
}

/** @throws ReadFailure */
export function openedTables(source: Source): readonly OpenedTable[] {
  return tables.of(source);
}
