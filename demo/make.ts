/** Writes the demo's files beside this script. Running it again changes nothing. */
import { createHash } from 'node:crypto';
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Job, readJobFile, writeJobFile } from '../core/index.ts';
import { quayReturns } from './quay-returns.ts';

const here = dirname(fileURLToPath(import.meta.url));
const files = join(here, 'files');
const truth = join(here, 'truth');
mkdirSync(files, { recursive: true });
mkdirSync(truth, { recursive: true });

function withFile(job: Job, source: string, name: string, bytes: Uint8Array): Job {
  const file = { name, size: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') };
  return { ...job, sources: job.sources.map((one) => (one.id === source ? { ...one, file } : one)) };
}

const quay = quayReturns();
writeFileSync(join(files, 'quay-returns-q2.xlsx'), quay.workbook);
writeFileSync(join(truth, 'quay-returns-q2.csv'), quay.truth);
const job = withFile(quay.job, 'quay-returns', 'quay-returns-q2.xlsx', quay.workbook);
writeFileSync(join(files, 'quay-returns.job.json'), writeJobFile(readJobFile(JSON.stringify(job))));
