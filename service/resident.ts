import { readFileSync } from 'node:fs';

/** Of Linux on all machines that Node runs on, but for a few with large pages. */
const PAGE_BYTES = 4096;

/** Memory that a process holds, in bytes; 0 where the system does not tell (it is Linux that does). */
export function residentBytes(pid: number | undefined): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * PAGE_BYTES;
  } catch {
    return 0;
  }
}
