import { FREE_FROM, type Kernels, kernels } from '../../kernels/kernels.ts';

/** Larger memory is not kept for what is written next. */
const MAX_KEPT = 8_388_608;

let made: ReturnType<typeof kernels>;

/**
 * Kernels with memory from FREE_FROM on, which belongs to the caller until the next call.
 * @param size bytes
 * @returns undefined where there are none
 */
export function parquetKernel(size: number): { kernels: Kernels; memory: ArrayBuffer } | undefined {
  if (made !== undefined && made.memory.byteLength >= FREE_FROM + size) return made;
  const larger = kernels(size);
  if (size <= MAX_KEPT) made = larger;
  return larger;
}
