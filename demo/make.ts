/**
 * Writes the demo's files beside this script. Running it again changes nothing: with --check it writes nothing, names the
 * files that differ, and exits with 1 if any does.
 */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { fullTables, type Job, layoutOf, Runner, readJobFile, type SourceLayout, writeJobFile } from '../core/index.ts';
import { DEMOS } from './all.ts';
import { type DemoFiles, demoFiles, openDemos } from './demo-job.ts';

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
  return {
    ...made.job,
    sources: made.job.sources.map((one) => {
      const layout = layoutIn(made, one.id);
      return { ...one, file: read.get(one.id) ?? null, ...(layout === undefined ? {} : { layout }) };
    }),
  };
}

/** What the next report of a source is known by. */
function layoutIn(made: DemoFiles, source: string): SourceLayout | undefined {
  const runner = new Runner();
  const all = demoFiles(made);
  for (const { source: id, file, bytes } of all) runner.setSource(id, { name: file, bytes });
  const table = made.job.tables.find(({ steps }) => steps[0]?.params['source'] === source);
  const file = all.find((one) => one.source === source)?.file;
  if (table === undefined || file === undefined) return undefined;
  return layoutOf(runner.runTable(fullTables(made.job), table.id, { progress: () => undefined }), file);
}

for (const make of Object.values(DEMOS)) {
  const made = make();
  await openDemos([made]);
  const { file, truth, job } = made;
  for (const one of demoFiles(made)) keep(join(files, one.file), one.bytes);
  keep(join(truths, `${file.replace(/\.\w+$/, '')}.csv`), truth);
  const text = JSON.stringify(withFiles(made));
  keep(join(files, `${job.id.replace('demo-', '')}.job.json`), writeJobFile(readJobFile(text)));
}
