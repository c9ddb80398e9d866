import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { expect, test } from 'vitest';

function pages(): string[] {
  return readdirSync('web', { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.tsx'))
    .map((name) => join('web', name));
}

// Nothing else tells of a class that is misspelt or was renamed: the page is only drawn without it.
test('every class that a page names stands in its sheet', () => {
  const missing: string[] = [];
  for (const file of pages()) {
    const code = readFileSync(file, 'utf8');
    for (const [, name, path] of code.matchAll(/import (\w+) from '([^']+\.module\.css)'/g)) {
      const sheet = readFileSync(join(dirname(file), path!), 'utf8');
      for (const [, used] of code.matchAll(new RegExp(`\\b${name}\\.(\\w+)`, 'g')))
        if (!new RegExp(`\\.${used}\\b`).test(sheet)) missing.push(`${file}: ${used}`);
    }
  }
  expect(missing).toEqual([]);
});
