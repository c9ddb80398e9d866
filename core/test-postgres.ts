/** A PostgreSQL server as the second opinion, where Debian's package is installed. For tests only. */
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { chownSync, existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

const BIN = '/usr/lib/postgresql';

// It refuses to run as root.
const isRoot = process.getuid?.() === 0;
const owner = isRoot
  ? Number(spawnSync('id', ['-u', 'postgres'], { encoding: 'utf8' }).stdout || Number.NaN)
  : undefined;
const version =
  existsSync(BIN) && !Number.isNaN(owner)
    ? readdirSync(BIN)
        .sort((a, b) => Number(a) - Number(b))
        .at(-1)
    : undefined;

export const HAS_POSTGRES = version !== undefined;

export interface Postgres {
  /** Runs a script by psql, and gives the rows of its queries. @throws Error with what the server says */
  query(script: string): (string | boolean | null)[][];
  stop(): Promise<void>;
}

/** A server that listens to nothing but a socket in a folder. */
export async function openPostgres(folder: string): Promise<Postgres> {
  const data = join(folder, 'postgres');
  const as = owner === undefined ? {} : { uid: owner };
  const psql = (input: string) =>
    execFileSync(
      'psql',
      ['-h', folder, '-U', 'postgres', '-X', '-q', '-v', 'ON_ERROR_STOP=1', '--csv', '-t', '-f', '-'],
      { input, encoding: 'utf8', cwd: folder, stdio: ['pipe', 'pipe', 'pipe'] },
    );
  if (owner !== undefined) chownSync(folder, owner, owner);
  const program = (name: string) => join(BIN, version!, 'bin', name);
  execFileSync(program('initdb'), ['-D', data, '-U', 'postgres', '-A', 'trust', '-E', 'UTF8', '--locale=C.UTF-8'], {
    ...as,
    stdio: 'pipe',
  });
  const server = spawn(program('postgres'), ['-D', data, '-k', folder, '-c', 'listen_addresses=', '-c', 'fsync=off'], {
    ...as,
    stdio: 'ignore',
  });
  for (let tries = 0; ; tries++) {
    try {
      psql('select 1;');
      break;
    } catch (error) {
      if (tries > 100) throw error;
      await new Promise((done) => setTimeout(done, 100));
    }
  }
  return {
    query: (script) => csvRows(psql(script)),
    stop: async () => {
      const ended = new Promise((done) => server.once('exit', done));
      server.kill('SIGINT');
      await ended;
    },
  };
}

/** Rows as psql writes them: blanks without quotes, 't' and 'f'. */
function csvRows(text: string): (string | boolean | null)[][] {
  const rows: (string | boolean | null)[][] = [[]];
  for (const [, quoted, plain, end] of text.matchAll(/(?:"((?:[^"]|"")*)"|([^,\n]*))([,\n])/g)) {
    const cell =
      quoted?.replaceAll('""', '"') ?? (plain === '' ? null : plain === 't' ? true : plain === 'f' ? false : plain!);
    rows.at(-1)!.push(cell);
    if (end === '\n') rows.push([]);
  }
  return rows.slice(0, -1);
}
