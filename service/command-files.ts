/** The files of a command: what it reads and where it writes. */
import { type Dirent, readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import {
  EXPORT_FORMATS,
  type ExportFormat,
  ExportSpec,
  fitsPattern,
  freeName,
  type JobTable,
  type NamedFile,
  numberedFile,
  sourceFiles,
} from '../core/index.ts';
import { writeAside } from './write-aside.ts';

/** Something the caller has to put right; said on standard error without a stack. */
export class Trouble extends Error {}

/** What a command reads from and writes to. */
export interface Io {
  input(): Uint8Array;
  output(bytes: Uint8Array): void;
  error(text: string): void;
  /** error is a terminal, where a line can be written over. */
  terminal: boolean;
}

/** The name of a report with the ending of the format, in a way that no two get the same. */
export function outName(file: string, spec: ExportSpec, taken: Set<string>): string {
  const plain = basename(file).replace(/\.[^.]+$/, '');
  const { ending } = EXPORT_FORMATS[spec.as];
  return freeName(`${plain}.${ending}`, taken, numberedFile);
}

/** The files that a folder, an archive or a pattern means, in the order of their names. @throws Trouble when none is there */
export function filesAt(path: string, io: Io): NamedFile[] {
  if (!isFolder(path) && !isPattern(path))
    return [...sourceFiles({ name: basename(path), bytes: readBytes(path, io) })];
  return pathsAt(path).map((one) => ({ name: one.name, bytes: readBytes(one.path, io) }));
}

const isPattern = (path: string) => /[*?]/.test(basename(path));

/** Where the files of a folder or a pattern are, in the order of their names. @throws Trouble when none is there */
export function pathsAt(path: string): { name: string; path: string }[] {
  const whole = isFolder(path);
  if (!whole && !isPattern(path)) throw new Trouble(`${path} is no folder and no pattern with * and ?.`);
  const folder = whole ? path : dirname(path);
  const fits = whole ? (name: string) => !name.startsWith('.') : fitsPattern(basename(path));
  const names = entriesOf(folder)
    .filter((entry) => entry.isFile() && fits(entry.name))
    .map((entry) => entry.name)
    .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  if (names.length === 0) throw new Trouble(`${path} holds no files.`);
  return names.map((name) => ({ name, path: join(folder, name) }));
}

export function isFolder(path: string): boolean {
  return statSync(path, { throwIfNoEntry: false })?.isDirectory() ?? false;
}

function entriesOf(folder: string): Dirent[] {
  try {
    return readdirSync(folder, { withFileTypes: true });
  } catch (error) {
    throw new Trouble(`${folder} cannot be read: ${(error as Error).message}`);
  }
}

/**
 * The export that is asked for: by name, by the ending of the file, or as the job has it.
 * @param all several tables go out together
 * @throws Trouble for an ending that is of no format, or that says something else than what is written
 */
export function specOf(table: JobTable, out: string, as: string | undefined, all = false): ExportSpec {
  const ending = /\.([a-z]+)$/i.exec(basename(out))?.[1]?.toLowerCase();
  const formats = Object.entries(EXPORT_FORMATS);
  const named = formats.find(([, format]) => format.ending === ending)?.[0];
  const wanted = as ?? named ?? (out === '' ? (table.export?.as ?? 'csv') : 'csv');
  const format = Object.hasOwn(EXPORT_FORMATS, wanted) ? EXPORT_FORMATS[wanted as ExportFormat] : undefined;
  if (format === undefined)
    throw new Trouble(`There is no format ${wanted}. The formats are ${Object.keys(EXPORT_FORMATS).join(', ')}.`);
  const endings = [...new Set(formats.map(([, one]) => one.ending))].join(', ');
  const written = all && format.many !== true ? 'zip' : format.ending;
  if (ending !== undefined && as === undefined && named === undefined && !(all && ending === 'zip'))
    throw new Trouble(
      `${out} ends in .${ending}, which is no format that is written here. Use one of ${endings}, or say the format with --as.`,
    );
  if (all && written === 'zip' && ending !== undefined && ending !== 'zip')
    throw new Trouble(
      `A file .${ending} holds one table. With --all name an archive (.zip), or a format that holds several: ${formats
        .filter(([, one]) => one.many && one.ending !== 'zip')
        .map(([, one]) => `.${one.ending}`)
        .join(', ')}.`,
    );
  return table.export?.as === wanted ? table.export : ExportSpec.parse({ as: wanted });
}

/** The same path with a number in front of its ending from the second on. */
export function numbered(path: string, k: number): string {
  return k === 0 || path === '-' ? path : path.replace(/(\.[^./]*)?$/, `-${k + 1}$1`);
}

export function readBytes(file: string, io: Io): Uint8Array {
  try {
    if (file === '-') return io.input();
    return readFileSync(file);
  } catch (error) {
    throw new Trouble(`${file} cannot be read: ${(error as Error).message}`);
  }
}

export function write(out: string, bytes: Uint8Array, io: Io): void {
  if (out === '-') {
    io.output(bytes);
    return;
  }
  try {
    writeAside(out, bytes);
  } catch (error) {
    throw new Trouble(`${out} cannot be written: ${(error as Error).message}`);
  }
}

export function writeJson(out: string, value: unknown, io: Io): void {
  write(out, new TextEncoder().encode(`${JSON.stringify(value, null, 2)}\n`), io);
}
