import { closeSync, fsyncSync, mkdirSync, openSync, renameSync, rmSync, writeSync } from 'node:fs';
import { dirname } from 'node:path';

let count = 0;

/**
 * Writes a file beside its place and renames it, so that nobody meets a half-written one and a crash leaves what was
 * there. The folder is made where it is missing.
 *
 * @throws Error of the file system
 */
export function writeAside(path: string, bytes: Uint8Array): void {
  mkdirSync(dirname(path), { recursive: true });
  const aside = `${path}.${process.pid}-${++count}.part`;
  try {
    const file = openSync(aside, 'wx');
    try {
      for (let at = 0; at < bytes.length; ) at += writeSync(file, bytes, at);
      fsyncSync(file);
    } finally {
      closeSync(file);
    }
    renameSync(aside, path);
  } catch (error) {
    rmSync(aside, { force: true });
    throw error;
  }
}
