/** Asks for a file. Resolves to undefined when none is chosen. */
export function pickFile(accept: string): Promise<File | undefined> {
  return new Promise((resolve) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = accept;
    input.addEventListener('change', () => resolve(input.files?.[0] ?? undefined));
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

export const SOURCE_FILES = '.xlsx,.xlsm,.xlsb,.xls,.ods,.csv,.tsv,.txt,.prn,.log,.asc,.json,.ndjson,.jsonl';
export const JOB_FILES = '.json';

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
