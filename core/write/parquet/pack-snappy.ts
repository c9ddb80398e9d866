import { snappyCompress } from 'hyparquet-writer/src/snappy.js';
import { FREE_FROM } from '../../kernels/kernels.ts';
import { parquetKernel } from './kernel.ts';

const TABLE_BYTES = 65_536;
/** Fewer bytes are packed as fast without a kernel. */
const MIN_BYTES = 1024;

/**
 * Bytes packed by Snappy: the same by the kernel and without.
 * @param kernelFrom bytes from which the kernel packs them, where there is one
 */
export function packSnappy(bytes: Uint8Array, kernelFrom = MIN_BYTES): Uint8Array {
  const { length } = bytes;
  if (length < kernelFrom) return snappyCompress(bytes);
  const from = FREE_FROM + TABLE_BYTES;
  const out = from + length + 8;
  const made = parquetKernel(out + length + Math.ceil(length / 6) + 32 - FREE_FROM);
  if (made === undefined) return snappyCompress(bytes);
  new Uint8Array(made.memory, from, length).set(bytes);
  const packed = made.kernels.snappy(from, length, out, FREE_FROM);
  return new Uint8Array(made.memory.slice(out, out + packed));
}
