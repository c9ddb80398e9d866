/** What `npm start` and `npm test` need on a machine with only Node and npm. No packages may be imported here. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..');
/** Where Debian's package puts it. */
const DEBIANS = '/usr/bin/chromium';

export function say(text) {
  process.stdout.write(`${text}\n`);
}

/** Runs a command with its output in sight. @returns whether it ended well */
export function run(command, args, options = {}) {
  // On Windows npm and npx are scripts, which only the shell starts.
  const shell = process.platform === 'win32' && command !== process.execPath;
  return spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', shell, ...options }).status === 0;
}

/** Installs packages when the lock file is newer than what is installed. */
export function installPackages() {
  const hash = createHash('sha256').update(readFileSync(join(ROOT, 'package-lock.json')));
  // Packages that are mended here are mended when they are installed.
  for (const name of readdirSync(join(ROOT, 'patches')).sort()) hash.update(readFileSync(join(ROOT, 'patches', name)));
  const lock = hash.digest('hex');
  const stamp = join(ROOT, 'node_modules', '.rimefield-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('Installing packages …');
  // Not `npm ci`: it refuses a lock file that lacks the optional parts of other platforms, which a mirror may not hold.
  if (!run('npm', ['install', '--no-audit', '--no-fund', '--loglevel=error'])) {
    say('The packages could not be installed. Check that npm reaches its registry, and run this again.');
    process.exit(1);
  }
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, lock);
}

/**
 * Finds a Chromium for the browser tests, or installs one: the one that CHROMIUM names, Debian's where apt is, else the
 * one that the test library brings. Chosen by the same rule as in chromium.ts.
 */
export function installChromium() {
  const named = process.env.CHROMIUM;
  if (named !== undefined) {
    if (existsSync(named)) return;
    say(`CHROMIUM names ${named}, which is not there.`);
    process.exit(1);
  }
  if (existsSync(DEBIANS)) return;
  if (!existsSync('/usr/bin/apt-get')) {
    say('Installing the Chromium of the browser tests …');
    if (run('npx', ['playwright', 'install', 'chromium'])) return;
    say('Chromium could not be installed. Install it by hand and name it in CHROMIUM.');
    process.exit(1);
  }
  say('Installing Chromium from Debian …');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  for (const args of [
    ['apt-get', 'update', '-qq'],
    ['apt-get', 'install', '-y', '-qq', 'chromium'],
  ]) {
    const [command, ...rest] = [...sudo, ...args];
    if (!run(command, rest, { env, stdio: ['ignore', 'ignore', 'inherit'] })) {
      say('Chromium could not be installed. Install it by hand and name it in CHROMIUM.');
      process.exit(1);
    }
  }
}

/** PostgreSQL for the tests that run scripts in it, where Debian's package is to be had: without it they are skipped. */
export function installPostgres() {
  if (existsSync('/usr/lib/postgresql') || !existsSync('/usr/bin/apt-get')) return;
  say('Installing PostgreSQL from Debian …');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const [command, ...rest] = [...sudo, 'apt-get', 'install', '-y', '-qq', 'postgresql'];
  if (!run(command, rest, { env, stdio: 'ignore' }))
    say('PostgreSQL could not be installed: the tests that run scripts in it are skipped.');
}

/** What the built application is made of. */
const SOURCES = [
  'web',
  'core',
  'service',
  'demo/files',
  'index.html',
  'vite.config.ts',
  'vite.node.config.ts',
  'package-lock.json',
  'patches',
];

/** Newest change of any file in these files and folders, in milliseconds. */
function newestOf(paths) {
  let newest = 0;
  for (const path of paths) {
    const full = join(ROOT, path);
    const found = statSync(full);
    newest = Math.max(newest, found.mtimeMs);
    if (found.isDirectory()) newest = Math.max(newest, newestOf(readdirSync(full).map((name) => join(path, name))));
  }
  return newest;
}

/** Builds the pages, and the command line with the server, when anything they are made of has changed since. */
export function build() {
  const stamp = join(ROOT, 'dist', '.built');
  const newest = String(newestOf(SOURCES));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === newest) return;
  say('Building …');
  for (const config of ['vite.config.ts', 'vite.node.config.ts'])
    if (!run('npx', ['vite', 'build', '--config', config, '--logLevel', 'warn'])) process.exit(1);
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, newest);
}
