import { sizeText } from '../../core/index.ts';
/** Asks for a file, or for several that become one. Resolves to undefined when none is chosen. */
export function pickFile(accept: string, several = false): Promise<File | undefined> {
  return new Promise((resolve) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = accept;
    input.multiple = several;
    input.addEventListener('change', () => resolve(asOneFile([...(input.files ?? [])])));
    input.addEventListener('cancel', () => resolve(undefined));
    input.click();
  });
}

/** Hands a file to the browser's downloads. */
export function downloadFile(name: string, type: string, data: BlobPart): void {
  const url = URL.createObjectURL(new Blob([data], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

export const SOURCE_FILES =
  '.xlsx,.xlsm,.xlsb,.xls,.ods,.fods,.dbf,.pdf,.csv,.tsv,.txt,.prn,.log,.asc,.dat,.json,.ndjson,.jsonl,.yaml,.yml,.ini,.xml,.html,.htm,.md,.parquet,.arrow,.feather,.sqlite,.sqlite3,.db,.eml,.gz,.zip';
export const JOB_FILES = '.json';

/** Browsers do not hold more bytes than this in one piece, with all that is made of them. */
const MAX_BYTES = 1_500_000_000;

/** @throws Error that says where a file of that size can be run */
export async function bytesOf(file: File): Promise<Uint8Array<ArrayBuffer>> {
  if (file.size > MAX_BYTES)
    throw new Error(
      `${file.name} has ${sizeText(file.size)}; up to ${sizeText(MAX_BYTES)} are read in a browser. Make the method on a part of it, export the job, and run it on a computer with Node: rimefield run JOB --source NAME=FILE --out FILE takes delimited text and fixed columns of any size.`,
    );
  return new Uint8Array(await file.arrayBuffer());
}

/** A file name out of a job's or table's name. */
export function fileName(name: string): string {
  return (
    name
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, '') || 'table'
  );
}

/** A job file begins with its own name; any other JSON is a report. */
export async function isJobFile(file: File): Promise<boolean> {
  return /^\s*\{\s*"rimefield"/.test(await file.slice(0, 200).text());
}

/** What was dropped, as one file: several, and those in folders, as an archive of them. */
export async function droppedFile(transfer: DataTransfer): Promise<File | undefined> {
  return asOneFile(await droppedFiles(transfer));
}

/** The files of a drop, those in folders too. */
async function droppedFiles(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry?.() ?? null);
  const plain = [...transfer.files];
  if (!entries.some((entry) => entry?.isDirectory)) return plain;
  const found = await Promise.all(entries.map((entry) => (entry === null ? [] : filesOf(entry))));
  return found.flat();
}

async function filesOf(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile) {
    return [await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject))];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: File[] = [];
  for (;;) {
    const batch = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (batch.length === 0) return found;
    for (const one of batch) if (!one.name.startsWith('.')) found.push(...(await filesOf(one)));
  }
}

/** Several files as one: an archive of them, named by what their names share. */
function asOneFile(files: readonly File[]): Promise<File | undefined> {
  return filesAsOne(files, 'files');
}

/**
 * Several files as one.
 * @param otherwise what the archive is called where their names share nothing
 */
export async function filesAsOne(files: readonly File[], otherwise: string): Promise<File | undefined> {
  if (files.length <= 1) return files[0];
  const contents = await Promise.all(files.map(async (file) => ({ name: file.name, bytes: await bytesOf(file) })));
  const [first = '', ...rest] = files.map((file) => file.name.replace(/\.[^.]*$/, ''));
  let shared = first.length;
  for (const name of rest) while (!name.startsWith(first.slice(0, shared))) shared--;
  const base = first.slice(0, shared).replace(/[^\p{L}\p{N}]+$/u, '');
  const { bundleFiles } = await import('./bundle-files.ts');
  return new File([bundleFiles(contents)], `${base === '' ? otherwise : base} (${files.length} files).zip`);
}
