/** Writes the demo's files beside this script. Running it again changes nothing. */
import { createHash } from 'node:crypto';
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Job, readJobFile, writeJobFile } from '../core/index.ts';
import { DEMOS } from './all.ts';

const here = dirname(fileURLToPath(import.meta.url));
const files = join(here, 'files');
const truths = join(here, 'truth');
mkdirSync(files, { recursive: true });
mkdirSync(truths, { recursive: true });

/** The job as it was when it last read the file. */
function withFile(job: Job, name: string, bytes: Uint8Array): Job {
  const file = { name, size: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') };
  return { ...job, sources: job.sources.map((one) => ({ ...one, file })) };
}

for (const make of Object.values(DEMOS)) {
  const { file, bytes, truth, job } = make();
  writeFileSync(join(files, file), bytes);
  writeFileSync(join(truths, `${file.replace(/\.\w+$/, '')}.csv`), truth);
  const text = JSON.stringify(withFile(job, file, bytes));
  writeFileSync(join(files, `${job.id.replace('demo-', '')}.job.json`), writeJobFile(readJobFile(text)));
}
