/** Writes the pages of docs/ that are made from the code. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { referencePages } from './reference.ts';

const docs = join(dirname(fileURLToPath(import.meta.url)), '..', 'docs');
mkdirSync(docs, { recursive: true });
for (const [name, text] of Object.entries(referencePages())) writeFileSync(join(docs, name), text);
