/** Bytes of a stream laid out in windows for deflate, as fflate's streams lay them out. */
import { deflate } from './deflate';

/** Bytes from which copies are taken, bytes that are packed at a time, and fewer, which wait for the next piece. */
const LOOK_BACK: i32 = 32_768;
const PIECE: i32 = 65_536;
const WINDOW: i32 = LOOK_BACK + PIECE;
const FEWEST_BYTES: i32 = 8191;
/** Of the table of places, while a stream goes on and for its last piece. */
const HASH_BITS: i32 = 20;
const LAST_HASH_BITS: i32 = 18;
/** What is kept between calls, 32 bits each: see `deflate`, and where the bytes in the window end. */
const AT: usize = 0;
const PACKED_TO: usize = 4;
const END: usize = 12;

/**
 * Packs bytes of a stream, laid out in a window piece by piece.
 * @param bytes their place
 * @param length how many; where more follow that were pushed together, a multiple of 2^16
 * @param isLast nothing comes behind them
 * @param window room for 98,304 bytes, 8 before and 8 behind
 * @param state four numbers of 32 bits: 32,768 twice, 0 and 32,768 at the beginning of a stream
 * @param head room for 2^20 x 16 bits, all zero at the beginning
 * @param before room for 2^15 x 16 bits, all zero at the beginning
 * @param symbols room for 25,000 x 32 bits
 * @param tables room for 2^14 bytes
 * @param out room for the length and 102,400 bytes more
 * @returns how many bytes came out
 */
export function deflateStream(
  bytes: usize,
  length: i32,
  isLast: bool,
  window: usize,
  state: usize,
  head: usize,
  before: usize,
  symbols: usize,
  tables: usize,
  out: usize,
): i32 {
  let at = out;
  let from: i32 = 0;
  do {
    const size = min(PIECE, length - from);
    const isLastPiece = isLast && from + size === length;
    let end = load<i32>(state + END);
    const fits = min(size, WINDOW - end);
    memory.copy(window + end, bytes + from, fits);
    end += fits;
    if (fits < size) {
      at += deflate(window, end, HASH_BITS, false, state, head, before, symbols, tables, at);
      memory.copy(window, window + WINDOW - LOOK_BACK, LOOK_BACK);
      memory.copy(window + LOOK_BACK, bytes + from + fits, size - fits);
      end = LOOK_BACK + size - fits;
      store<i32>(state + AT, LOOK_BACK - 2);
      store<i32>(state + PACKED_TO, LOOK_BACK);
    }
    if (end > load<i32>(state + PACKED_TO) + FEWEST_BYTES || isLastPiece) {
      const hashBits = isLastPiece ? LAST_HASH_BITS : HASH_BITS;
      at += deflate(window, end, hashBits, isLastPiece, state, head, before, symbols, tables, at);
      const reached = load<i32>(state + AT);
      store<i32>(state + PACKED_TO, reached);
      store<i32>(state + AT, reached - 2);
    }
    store<i32>(state + END, end);
    from += size;
  } while (from < length);
  return <i32>(at - out);
}
