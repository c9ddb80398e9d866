/** Measures drafts alone, and puts the result in its place in docs/benchmarks.md. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { draftsSection } from './section.ts';

const page = join(import.meta.dirname, '..', '..', 'docs', 'benchmarks.md');
const section = await draftsSection();
const before = readFileSync(page, 'utf8');
const place = /## Drafts\n[\s\S]*?(?=\n## )/;
const after = place.test(before)
  ? before.replace(place, () => section)
  : before.replace('## Guessing\n', () => `${section}\n## Guessing\n`);
writeFileSync(page, after);
process.stdout.write(section);
