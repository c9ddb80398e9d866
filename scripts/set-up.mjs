/** What `npm start` and `npm test` need on a machine with only Node and npm. No packages may be imported here. */
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..');
const CHROMIUM = '/usr/bin/chromium';

export function say(text) {
  process.stdout.write(`${text}\n`);
}

/** Runs a command with its output in sight. @returns whether it ended well */
export function run(command, args, options = {}) {
  return spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options }).status === 0;
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

/** Installs Debian's Chromium when it is missing. */
export function installChromium() {
  if (existsSync(process.env.CHROMIUM ?? CHROMIUM)) return;
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

/** Newest change of anything the built application is made of. */
function newestSource() {
  const listed = execFileSync(
    'find',
    [
      'web',
      'core',
      'demo/files',
      'index.html',
      'vite.config.ts',
      'package-lock.json',
      'patches',
      '-type',
      'f',
      '-printf',
      '%T@\n',
    ],
    {
      cwd: ROOT,
      encoding: 'utf8',
      maxBuffer: 1 << 26,
    },
  );
  return Math.max(...listed.trim().split('\n').map(Number));
}

/** Builds the application when anything it is made of has changed since. */
export function build() {
  const stamp = join(ROOT, 'dist', '.built');
  const newest = String(newestSource());
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === newest) return;
  say('Building …');
  if (!run('npx', ['vite', 'build', '--logLevel', 'warn'])) process.exit(1);
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, newest);
}
