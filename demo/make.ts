/**
 * Writes the demo's files beside this script. Running it again changes nothing: with --check it writes nothing, names the
 * files that differ, and exits with 1 if any does.
 */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Job, readJobFile, writeJobFile } from '../core/index.ts';
import { DEMOS } from './all.ts';
import { type DemoFiles, demoFiles } from './demo-job.ts';

const here = dirname(fileURLToPath(import.meta.url));
const files = join(here, 'files');
const truths = join(here, 'truth');
mkdirSync(files, { recursive: true });
mkdirSync(truths, { recursive: true });

const isCheck = process.argv.includes('--check');

function keep(path: string, content: Uint8Array | string): void {
  if (!isCheck) {
    writeFileSync(path, content);
    return;
  }
  if (existsSync(path) && readFileSync(path).equals(Buffer.from(content))) return;
  process.stdout.write(`${path} differs: run npm run demo\n`);
  process.exitCode = 1;
}

/** The job as it was when it last read its files. */
function withFiles(made: DemoFiles): Job {
  const read = new Map(
    demoFiles(made).map(({ source, file, bytes }) => [
      source,
      { name: file, size: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') },
    ]),
  );
  return { ...made.job, sources: made.job.sources.map((one) => ({ ...one, file: read.get(one.id) ?? null })) };
}

for (const make of Object.values(DEMOS)) {
  const made = make();
  const { file, truth, job } = made;
  for (const one of demoFiles(made)) keep(join(files, one.file), one.bytes);
  keep(join(truths, `${file.replace(/\.\w+$/, '')}.csv`), truth);
  const text = JSON.stringify(withFiles(made));
  keep(join(files, `${job.id.replace('demo-', '')}.job.json`), writeJobFile(readJobFile(text)));
}
