/** Writes the demo's files beside this script. Running it again changes nothing. */
import { createHash } from 'node:crypto';
import { mkdirSync, writeFileSync } from 'node:fs';
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
  for (const one of demoFiles(made)) writeFileSync(join(files, one.file), one.bytes);
  writeFileSync(join(truths, `${file.replace(/\.\w+$/, '')}.csv`), truth);
  const text = JSON.stringify(withFiles(made));
  writeFileSync(join(files, `${job.id.replace('demo-', '')}.job.json`), writeJobFile(readJobFile(text)));
}
