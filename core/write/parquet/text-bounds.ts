import { FREE_FROM } from '../../kernels/kernels.ts';
import { Places } from '../../kernels/window.ts';
import { parquetKernel } from './kernel.ts';

/** Fewer texts are compared as fast without a kernel. */
const MIN_TEXTS = 256;
/** What the kernel may look at behind the last. */
const BEHIND = 8;

/**
 * Which of some texts are the least and the greatest by their bytes, the first of equal ones.
 * @param bytes of the texts, one behind the other, each with its length in four bytes before it
 * @param ends where each ends, a zero before them
 * @param kernelFrom texts from which a kernel compares them, where there is one
 */
export function textBounds(
  bytes: Uint8Array,
  ends: Float64Array,
  kernelFrom = MIN_TEXTS,
): { least: number; most: number } {
  return (ends.length <= kernelFrom ? undefined : byKernel(bytes, ends)) ?? byBytes(bytes, ends);
}

function byKernel(bytes: Uint8Array, ends: Float64Array) {
  const places = new Places(FREE_FROM);
  const at = { ends: places.take(ends.length * 8), bytes: places.take(bytes.length + BEHIND) };
  const made = parquetKernel(places.take(0) - FREE_FROM);
  if (made === undefined) return undefined;
  new Float64Array(made.memory, at.ends, ends.length).set(ends);
  new Uint8Array(made.memory, at.bytes, bytes.length).set(bytes);
  const least = made.kernels.textBounds(at.bytes, at.ends, ends.length - 1);
  return { least, most: made.kernels.textBoundsMost.value };
}

function byBytes(bytes: Uint8Array, ends: Float64Array) {
  let least = 0;
  let most = 0;
  const compared = (one: number, other: number) => {
    const [oneTo, otherTo] = [ends[one + 1]!, ends[other + 1]!];
    let [a, b] = [ends[one]! + 4, ends[other]! + 4];
    for (; a < oneTo && b < otherTo; a++, b++) if (bytes[a] !== bytes[b]) return bytes[a]! - bytes[b]!;
    return oneTo - a - (otherTo - b);
  };
  for (let k = 1; k < ends.length - 1; k++) {
    if (compared(k, least) < 0) least = k;
    else if (compared(k, most) > 0) most = k;
  }
  return { least, most };
}
