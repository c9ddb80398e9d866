import { snappyCompress } from 'hyparquet-writer/src/snappy.js';
import { FREE_FROM, kernels } from '../../kernels/kernels.ts';
import { KERNEL_BYTES } from '../../kernels/window.ts';

const TABLE_BYTES = 65_536;
/** Larger memory is not kept for what is packed next. */
const MOST_KEPT = 8_388_608;

let made: ReturnType<typeof kernels>;

/**
 * Bytes packed by Snappy: the same by the kernel and without.
 * @param kernelFrom bytes from which the kernel packs them, where there is one
 */
export function packSnappy(bytes: Uint8Array, kernelFrom = KERNEL_BYTES): Uint8Array {
  const { length } = bytes;
  if (length < kernelFrom) return snappyCompress(bytes);
  const from = FREE_FROM + TABLE_BYTES;
  const out = from + length + 8;
  const size = out + length + Math.ceil(length / 6) + 32 - FREE_FROM;
  let own = made;
  if (own === undefined || own.memory.byteLength < FREE_FROM + size) own = kernels(size);
  if (own === undefined) return snappyCompress(bytes);
  if (size <= MOST_KEPT) made = own;
  new Uint8Array(own.memory, from, length).set(bytes);
  const packed = own.kernels.snappy(from, length, out, FREE_FROM);
  return new Uint8Array(own.memory.slice(out, out + packed));
}
