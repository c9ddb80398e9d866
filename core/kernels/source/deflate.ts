import { alike } from './snappy';

/**
 * Packs bytes by deflate (RFC 1951), to the same bytes as fflate does at level 1, which core/write/deflate-stream.ts uses
 * without kernels. Streams give it a window piece by piece (deflate-stream.ts), and each piece ends a block.
 */

/** Blocks end behind so many symbols, or so many copies. */
const MOST_SYMBOLS: i32 = 24_576;
const MOST_COPIES: i32 = 7000;
/** Fewer bytes are left to the block before them. */
const LAST_BYTES: i32 = 423;
/** So many places are tried, and a copy that is longer than this is taken at once. */
const CHAIN: i32 = 4;
const NICE: i32 = 8;
const LONGEST: i32 = 258;
const FARTHEST: i32 = 32_767;
const COPY: i32 = 1 << 28;
const END_OF_BLOCK: i32 = 256;

/** What a block needs, in the room that the caller gives (2^14 bytes): 32 bits each where nothing else is said. */
const LITERAL_COUNTS: usize = 0;
const DISTANCE_COUNTS: usize = 0x480;
const RUN_COUNTS: usize = 0x500;
/** Lengths of codes, 8 bits each; codes 16. */
const LITERAL_LENGTHS: usize = 0x580;
const DISTANCE_LENGTHS: usize = 0x6a0;
const RUN_LENGTHS: usize = 0x6c0;
const LITERAL_CODES: usize = 0x700;
const DISTANCE_CODES: usize = 0x940;
const RUN_CODES: usize = 0x980;
/** Lengths of codes as they are written, runs of them in one, 16 bits each. */
const LITERAL_RUNS: usize = 0x9c0;
const DISTANCE_RUNS: usize = 0xc40;
/** For the making of codes: counts of nodes, left and right of them, their depths; lists of nodes and of symbols. */
const NODES: usize = 0x1000;
const LEFTS: usize = 0x1a00;
const RIGHTS: usize = 0x1f00;
const DEPTHS: usize = 0x2400;
const LIST: usize = 0x2900;
const SYMBOLS: usize = 0x2c00;
const NEXT_CODES: usize = 0x2f00;

/** Nodes behind the symbols; the one that ends the list; more than all symbols of a block. */
const FIRST_JOINED: i32 = 300;
const NO_NODE: i32 = 299;
const MORE_THAN_ALL: u32 = 25_001;

/** The order in which RFC 1951, 3.2.7, tells the lengths of codes for lengths. */
const ORDER = memory.data<u8>([16, 17, 18, 0, 8, 7, 9, 6, 10, 5, 11, 4, 12, 3, 13, 2, 14, 1, 15]);

/** Bits that are no whole byte yet, and where the next bytes go. */
let bits: u64 = 0;
let held: u64 = 0;
let to: usize = 0;
let room: usize = 0;

/**
 * @param window the bytes, those before which copies may be taken from first; a zero stands before it, and memory must go
 *   on for 8 bytes behind it
 * @param size of the window
 * @param hashBits of the table of places
 * @param state 32 bits each: the place from which bytes are looked at, that from which they are packed, and bits that are
 *   no whole byte (the lowest three say how many); all three are set for the next call
 * @param head last place of each hash, 16 bits each; all zero at the beginning of a stream
 * @param before the place before each with the same hash, 16 bits each, 2^15 of them
 * @param symbols room for 25,000 x 32 bits
 * @param tables room for 2^14 bytes
 * @param out room for the size of the window and a hundred bytes
 * @returns how many bytes came out
 */
export function deflate(
  window: usize,
  size: i32,
  hashBits: i32,
  isLast: bool,
  state: usize,
  head: usize,
  before: usize,
  symbols: usize,
  tables: usize,
  out: usize,
): usize {
  let at = load<i32>(state);
  let waitsFor = load<i32>(state, 4);
  const rest = load<i32>(state, 8);
  held = rest & 7;
  bits = <u64>(rest >> 3);
  to = out;
  room = tables;
  memory.fill(room + LITERAL_COUNTS, 0, 288 << 2);
  memory.fill(room + DISTANCE_COUNTS, 0, 32 << 2);

  const mask = (1 << hashBits) - 1;
  const shift = (hashBits + 2) / 3;
  const shift2 = shift * 2;
  let copies = 0;
  let extra = 0;
  let count = 0;
  let blockFrom = 0;
  for (; at + 2 < size; at++) {
    const hash = hashAt(window + at, shift, shift2, mask);
    let place = at & 32_767;
    const slot = head + (<usize>hash << 1);
    let placeBefore = <i32>load<u16>(slot);
    store<u16>(before + (<usize>place << 1), <u16>placeBefore);
    store<u16>(slot, <u16>place);
    if (waitsFor > at) continue;
    const left = size - at;
    if ((copies > MOST_COPIES || count > MOST_SYMBOLS) && (left > LAST_BYTES || !isLast)) {
      block(window, false, symbols, count, extra, blockFrom, at - blockFrom);
      count = copies = extra = 0;
      blockFrom = at;
      memory.fill(room + LITERAL_COUNTS, 0, 286 << 2);
      memory.fill(room + DISTANCE_COUNTS, 0, 30 << 2);
    }
    let length = 2;
    let distance = 0;
    let far = (place - placeBefore) & 32_767;
    if (left > 2 && hash === hashAt(window + at - far, shift, shift2, mask)) {
      const enough = min(NICE, left) - 1;
      const farthest = min(FARTHEST, at);
      const longest = min(LONGEST, left);
      const here = window + at;
      let tries = CHAIN;
      while (far <= farthest && --tries !== 0 && place !== placeBefore) {
        const there = here - far;
        if (load<u8>(here + length) === load<u8>(there + length)) {
          const found = <i32>alike(there, here, here + longest);
          if (found > length) {
            length = found;
            distance = far;
            if (found > enough) break;
            // The rarest of what is found is looked for next.
            const most = min(far, found - 2);
            let widest = 0;
            for (let k = 0; k < most; k++) {
              const one = (at - far + k) & 32_767;
              const gap = (one - <i32>load<u16>(before + (<usize>one << 1))) & 32_767;
              if (gap > widest) {
                widest = gap;
                placeBefore = one;
              }
            }
          }
        }
        place = placeBefore;
        placeBefore = <i32>load<u16>(before + (<usize>place << 1));
        far += (place - placeBefore) & 32_767;
      }
    }
    let symbol: i32;
    if (distance !== 0) {
      const l = lengthCode(length);
      const d = distanceCode(distance);
      symbol = COPY | (l << 18) | d;
      const lengthKind = l & 31;
      const distanceKind = d & 31;
      extra += lengthBits(lengthKind) + distanceBits(distanceKind);
      add(room + LITERAL_COUNTS, 257 + lengthKind);
      add(room + DISTANCE_COUNTS, distanceKind);
      waitsFor = at + length;
      copies++;
    } else {
      symbol = load<u8>(window + at);
      add(room + LITERAL_COUNTS, symbol);
    }
    store<i32>(symbols + (<usize>count << 2), symbol);
    count++;
  }
  for (at = max(at, waitsFor); at < size; at++) {
    const byte = <i32>load<u8>(window + at);
    store<i32>(symbols + (<usize>count << 2), byte);
    count++;
    add(room + LITERAL_COUNTS, byte);
  }
  block(window, isLast, symbols, count, extra, blockFrom, at - blockFrom);
  if (isLast) {
    if (held > 0) store<u8>(to++, <u8>bits);
  } else {
    store<i32>(state, at);
    store<i32>(state, waitsFor, 4);
    store<i32>(state, <i32>held | (<i32>bits << 3), 8);
  }
  return to - out;
}

// @ts-ignore: decorator
@inline
function hashAt(at: usize, shift: i32, shift2: i32, mask: i32): i32 {
  const three = load<i32>(at);
  return ((three & 255) ^ (((three >> 8) & 255) << shift) ^ (((three >> 16) & 255) << shift2)) & mask;
}

// @ts-ignore: decorator
@inline
function add(counts: usize, symbol: i32): void {
  const at = counts + (<usize>symbol << 2);
  store<u32>(at, load<u32>(at) + 1);
}

/** The kind of a length of 3 to 258 (RFC 1951, 3.2.5), and the rest above its five bits. */
// @ts-ignore: decorator
@inline
function lengthCode(length: i32): i32 {
  const over = length - 3;
  if (over < 8) return over;
  if (length === LONGEST) return 28;
  const high = 31 - clz(over);
  const more = high - 2;
  return ((more << 2) + (over >> more)) | ((over & ((1 << more) - 1)) << 5);
}

/** The kind of a distance from 1, likewise. */
// @ts-ignore: decorator
@inline
function distanceCode(distance: i32): i32 {
  const over = distance - 1;
  if (over < 4) return over;
  const more = 30 - clz(over);
  return ((more << 1) + (over >> more)) | ((over & ((1 << more) - 1)) << 5);
}

// @ts-ignore: decorator
@inline
function lengthBits(kind: i32): i32 {
  return kind < 8 || kind === 28 ? 0 : (kind >> 2) - 1;
}

// @ts-ignore: decorator
@inline
function distanceBits(kind: i32): i32 {
  return kind < 4 ? 0 : (kind >> 1) - 1;
}

function orderAt(k: i32): usize {
  return <usize>load<u8>(ORDER + k);
}

function put(value: u32, count: i32): void {
  bits |= <u64>value << held;
  held += count;
  while (held >= 8) {
    store<u8>(to++, <u8>bits);
    bits >>= 8;
    held -= 8;
  }
}

/** Writes a block: with codes of its own, with the fixed ones, or as it is, whichever is shortest. */
function block(
  window: usize,
  isLast: bool,
  symbols: usize,
  count: i32,
  extra: i32,
  from: i32,
  length: i32,
): void {
  put(<u32>isLast, 1);
  add(room + LITERAL_COUNTS, END_OF_BLOCK);
  makeLengths(LITERAL_COUNTS, 286, 15, LITERAL_LENGTHS);
  makeLengths(DISTANCE_COUNTS, 30, 15, DISTANCE_LENGTHS);
  memory.fill(room + RUN_COUNTS, 0, 19 << 2);
  const literals = used(LITERAL_LENGTHS, 286);
  const distances = used(DISTANCE_LENGTHS, 30);
  const literalRuns = runs(LITERAL_LENGTHS, literals, LITERAL_RUNS);
  const distanceRuns = runs(DISTANCE_LENGTHS, distances, DISTANCE_RUNS);
  makeLengths(RUN_COUNTS, 19, 7, RUN_LENGTHS);
  let told: i32 = 19;
  while (told > 4 && load<u8>(room + RUN_LENGTHS + orderAt(told - 1)) === 0) told--;

  const asItIs = (length + 5) << 3;
  const fixed = fixedSize() + extra;
  const own =
    size(LITERAL_COUNTS, LITERAL_LENGTHS, 286) +
    size(DISTANCE_COUNTS, DISTANCE_LENGTHS, 30) +
    extra +
    14 +
    3 * told +
    size(RUN_COUNTS, RUN_LENGTHS, 19) +
    2 * countOf(RUN_COUNTS, 16) +
    3 * countOf(RUN_COUNTS, 17) +
    7 * countOf(RUN_COUNTS, 18);
  if (asItIs <= fixed && asItIs <= own) {
    put(0, 2);
    if (held > 0) put(0, 8 - <i32>held);
    store<u16>(to, <u16>length);
    store<u16>(to, <u16>~length, 2);
    memory.copy(to + 4, window + from, length);
    to += 4 + <usize>length;
    return;
  }
  if (own < fixed) {
    put(2, 2);
    makeCodes(LITERAL_LENGTHS, 286, LITERAL_CODES);
    makeCodes(DISTANCE_LENGTHS, 30, DISTANCE_CODES);
    makeCodes(RUN_LENGTHS, 19, RUN_CODES);
    put(literals - 257, 5);
    put(distances - 1, 5);
    put(told - 4, 4);
    for (let k: i32 = 0; k < told; k++) put(load<u8>(room + RUN_LENGTHS + orderAt(k)), 3);
    putRuns(LITERAL_RUNS, literalRuns);
    putRuns(DISTANCE_RUNS, distanceRuns);
  } else {
    put(1, 2);
    for (let k: i32 = 0; k < 288; k++) store<u8>(room + LITERAL_LENGTHS + k, <u8>fixedLength(k));
    memory.fill(room + DISTANCE_LENGTHS, FIXED_DISTANCE, 32);
    makeCodes(LITERAL_LENGTHS, 288, LITERAL_CODES);
    makeCodes(DISTANCE_LENGTHS, 32, DISTANCE_CODES);
  }
  putSymbols(symbols, count);
}

function putSymbols(symbols: usize, count: i32): void {
  const literalLengths = room + LITERAL_LENGTHS;
  const literalCodes = room + LITERAL_CODES;
  const distanceLengths = room + DISTANCE_LENGTHS;
  const distanceCodes = room + DISTANCE_CODES;
  let pending = bits;
  let pendingBits = held;
  let next = to;
  for (let k: i32 = 0; k < count; k++) {
    const symbol = load<i32>(symbols + (<usize>k << 2));
    // At most 7 bits wait, and a copy takes 48.
    if (symbol < COPY) {
      pending |= <u64>load<u16>(literalCodes + (<usize>symbol << 1)) << pendingBits;
      pendingBits += load<u8>(literalLengths + symbol);
    } else {
      const lengthKind = (symbol >> 18) & 31;
      const distanceKind = symbol & 31;
      pending |= <u64>load<u16>(literalCodes + (<usize>(lengthKind + 257) << 1)) << pendingBits;
      pendingBits += load<u8>(literalLengths + lengthKind + 257);
      pending |= <u64>((symbol >> 23) & 31) << pendingBits;
      pendingBits += lengthBits(lengthKind);
      pending |= <u64>load<u16>(distanceCodes + (<usize>distanceKind << 1)) << pendingBits;
      pendingBits += load<u8>(distanceLengths + distanceKind);
      pending |= <u64>((symbol >> 5) & 8191) << pendingBits;
      pendingBits += distanceBits(distanceKind);
    }
    store<u64>(next, pending);
    const whole = pendingBits & ~7;
    next += <usize>(whole >> 3);
    pending >>= whole;
    pendingBits &= 7;
  }
  bits = pending;
  held = pendingBits;
  to = next;
  put(load<u16>(literalCodes + (END_OF_BLOCK << 1)), load<u8>(literalLengths + END_OF_BLOCK));
}

function putRuns(runs: usize, count: i32): void {
  for (let k: i32 = 0; k < count; k++) {
    const run = <i32>load<u16>(room + runs + (<usize>k << 1));
    const kind = run & 31;
    put(load<u16>(room + RUN_CODES + (<usize>kind << 1)), load<u8>(room + RUN_LENGTHS + kind));
    if (kind > 15) put((run >> 5) & 127, run >> 12);
  }
}

function countOf(counts: usize, symbol: i32): i32 {
  return load<i32>(room + counts + (<usize>symbol << 2));
}

/** Bits that symbols take by codes of these lengths. */
function size(counts: usize, lengths: usize, many: i32): i32 {
  let sum = 0;
  for (let k: i32 = 0; k < many; k++) sum += countOf(counts, k) * <i32>load<u8>(room + lengths + k);
  return sum;
}

function fixedSize(): i32 {
  let sum = 0;
  for (let k: i32 = 0; k < 286; k++) sum += countOf(LITERAL_COUNTS, k) * fixedLength(k);
  for (let k: i32 = 0; k < 30; k++) sum += countOf(DISTANCE_COUNTS, k) * FIXED_DISTANCE;
  return sum;
}

/** Of the fixed codes (RFC 1951, 3.2.6). */
const FIXED_DISTANCE: u8 = 5;

function fixedLength(symbol: i32): i32 {
  return symbol < 144 ? 8 : symbol < 256 ? 9 : symbol < 280 ? 7 : 8;
}

/** Symbols up to the last that has a code, at least one. */
function used(lengths: usize, many: i32): i32 {
  let count = many;
  while (count > 1 && load<u8>(room + lengths + count - 1) === 0) count--;
  return count;
}

/** Lengths of codes with runs of them in one: kind, extra bits and how many of these. @returns how many there are */
function runs(lengths: usize, many: i32, out: usize): i32 {
  const from = room + out;
  let next = from;
  let value = <i32>load<u8>(room + lengths);
  let alike = 1;
  for (let k: i32 = 1; k <= many; k++) {
    if (k < many && <i32>load<u8>(room + lengths + k) === value) {
      alike++;
      continue;
    }
    if (value === 0 && alike > 2) {
      for (; alike > 138; alike -= 138) next = run(next, 32_754);
      if (alike > 2) {
        next = run(next, alike > 10 ? ((alike - 11) << 5) | 28_690 : ((alike - 3) << 5) | 12_305);
        alike = 0;
      }
    } else if (alike > 3) {
      next = run(next, value);
      alike--;
      for (; alike > 6; alike -= 6) next = run(next, 8304);
      if (alike > 2) {
        next = run(next, ((alike - 3) << 5) | 8208);
        alike = 0;
      }
    }
    for (; alike > 0; alike--) next = run(next, value);
    alike = 1;
    value = load<u8>(room + lengths + k);
  }
  return <i32>((next - from) >> 1);
}

function run(next: usize, value: i32): usize {
  store<u16>(next, <u16>value);
  add(room + RUN_COUNTS, value & 31);
  return next + 2;
}

/** Codes of these lengths (RFC 1951, 3.2.2), as they are written: the first bit last. */
function makeCodes(lengths: usize, many: i32, codes: usize): void {
  const next = room + NEXT_CODES;
  memory.fill(next, 0, 18 << 2);
  for (let k: i32 = 0; k < many; k++) {
    const length = <usize>load<u8>(room + lengths + k);
    if (length > 0) store<u32>(next + ((length + 1) << 2), load<u32>(next + ((length + 1) << 2)) + 1);
  }
  let code: u32 = 0;
  for (let length: usize = 1; length < 17; length++) {
    code = (code + load<u32>(next + (length << 2))) << 1;
    store<u32>(next + (length << 2), code);
  }
  for (let k: i32 = 0; k < many; k++) {
    const length = <u32>load<u8>(room + lengths + k);
    if (length === 0) continue;
    const slot = next + (<usize>length << 2);
    const own = load<u32>(slot);
    store<u32>(slot, own + 1);
    store<u16>(room + codes + (<usize>k << 1), <u16>turned(own, length));
  }
}

function turned(code: u32, length: u32): u32 {
  let value = ((code & 0x5555) << 1) | ((code >> 1) & 0x5555);
  value = ((value & 0x3333) << 2) | ((value >> 2) & 0x3333);
  value = ((value & 0x0f0f) << 4) | ((value >> 4) & 0x0f0f);
  value = ((value & 0x00ff) << 8) | ((value >> 8) & 0x00ff);
  return value >> (16 - length);
}

/** Lengths of codes for symbols that are met so often, none longer than `most` (Huffman, then cut and made up for). */
function makeLengths(counts: usize, many: i32, most: i32, lengths: usize): void {
  memory.fill(room + lengths, 0, many);
  const nodes = room + NODES;
  const list = room + LIST;
  const symbols = room + SYMBOLS;
  let met: i32 = 0;
  for (let symbol: i32 = 0; symbol < many; symbol++) {
    const count = <u32>countOf(counts, symbol);
    if (count === 0) continue;
    store<u32>(nodes + (<usize>symbol << 2), count);
    store<u16>(symbols + (<usize>met << 1), <u16>symbol);
    let at = met++;
    for (; at > 0 && node(entry(list, at - 1)) > count; at--)
      store<u16>(list + (<usize>at << 1), <u16>entry(list, at - 1));
    store<u16>(list + (<usize>at << 1), <u16>symbol);
  }
  if (met === 0) return;
  if (met === 1) {
    store<u8>(room + lengths + entry(list, 0), 1);
    return;
  }
  store<u32>(nodes + (<usize>NO_NODE << 2), MORE_THAN_ALL);
  store<u16>(list + (<usize>met << 1), <u16>NO_NODE);
  let joined = FIRST_JOINED;
  join(joined++, 0, entry(list, 0), entry(list, 1));
  let behind: i32 = 0;
  let next: i32 = 1;
  let ahead: i32 = 2;
  while (next !== met - 1) {
    const left = node(entry(list, behind)) < node(entry(list, ahead)) ? behind++ : ahead++;
    const leftNode = entry(list, left);
    const right = behind !== next && node(entry(list, behind)) < node(entry(list, ahead)) ? behind++ : ahead++;
    join(joined++, next++, leftNode, entry(list, right));
  }

  const depths = room + DEPTHS;
  store<u16>(depths + (<usize>(joined - 1) << 1), 0);
  let deepest: i32 = 0;
  for (let k = joined - 1; k >= FIRST_JOINED; k--) {
    const depth = entry(depths, k) + 1;
    const left = entry(room + LEFTS, k);
    const right = entry(room + RIGHTS, k);
    store<u16>(depths + (<usize>left << 1), <u16>depth);
    store<u16>(depths + (<usize>right << 1), <u16>depth);
    if (depth > deepest) deepest = depth;
  }
  if (deepest > most) cut(met, deepest, most);
  for (let k: i32 = 0; k < met; k++) {
    const symbol = entry(symbols, k);
    store<u8>(room + lengths + symbol, <u8>entry(depths, symbol));
  }
}

// @ts-ignore: decorator
@inline
function entry(list: usize, at: i32): i32 {
  return <i32>load<u16>(list + (<usize>at << 1));
}

/** How often what is below a node is met. */
// @ts-ignore: decorator
@inline
function node(which: i32): u32 {
  return load<u32>(room + NODES + (<usize>which << 2));
}

function join(joined: i32, at: i32, left: i32, right: i32): void {
  store<u32>(room + NODES + (<usize>joined << 2), node(left) + node(right));
  store<u16>(room + LEFTS + (<usize>joined << 1), <u16>left);
  store<u16>(room + RIGHTS + (<usize>joined << 1), <u16>right);
  store<u16>(room + LIST + (<usize>at << 1), <u16>joined);
}

/** Cuts codes that are too long, and makes others longer until there is room for all. */
function cut(met: i32, deepest: i32, most: i32): void {
  const symbols = room + SYMBOLS;
  const depths = room + DEPTHS;
  // Longest first, of these the rarest.
  for (let k: i32 = 1; k < met; k++) {
    const symbol = entry(symbols, k);
    const depth = entry(depths, symbol);
    let at = k;
    for (; at > 0; at--) {
      const other = entry(symbols, at - 1);
      const otherDepth = entry(depths, other);
      if (otherDepth > depth || (otherDepth === depth && node(other) <= node(symbol))) break;
      store<u16>(symbols + (<usize>at << 1), <u16>other);
    }
    store<u16>(symbols + (<usize>at << 1), <u16>symbol);
  }
  const over = deepest - most;
  let debt: i32 = 0;
  let at: i32 = 0;
  for (; at < met; at++) {
    const symbol = entry(symbols, at);
    const depth = entry(depths, symbol);
    if (depth <= most) break;
    debt += (1 << over) - (1 << (deepest - depth));
    store<u16>(depths + (<usize>symbol << 1), <u16>most);
  }
  debt >>= over;
  while (debt > 0) {
    const symbol = entry(symbols, at);
    const depth = entry(depths, symbol);
    if (depth < most) {
      debt -= 1 << (most - depth - 1);
      store<u16>(depths + (<usize>symbol << 1), <u16>(depth + 1));
    } else at++;
  }
  for (; at >= 0 && debt !== 0; at--) {
    const symbol = entry(symbols, at);
    if (entry(depths, symbol) !== most) continue;
    store<u16>(depths + (<usize>symbol << 1), <u16>(most - 1));
    debt++;
  }
}
