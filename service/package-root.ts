import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The folder of the project or of the installed package: where package.json is, from the sources and built alike. */
export function packageRoot(): string {
  let folder = dirname(fileURLToPath(import.meta.url));
  while (!existsSync(join(folder, 'package.json')) && dirname(folder) !== folder) folder = dirname(folder);
  return folder;
}
