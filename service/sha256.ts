import { createHash } from 'node:crypto';

/** The SHA-256 of a file, in hexadecimal (FIPS 180-4). */
export function sha256Of(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
}
