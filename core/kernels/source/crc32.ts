/** The check sum of zip archives (ISO 3309, CRC-32), sixteen bytes at a time. */

/** The remainders of all bytes that stand before 0 to 15 others, 32 bits each. */
// Far above the constants of other kernels, and below what is given to callers.
const TABLES: usize = 0x8000;
let isMade = false;

/** @param rest the check sum of what stands before, 0 at the beginning */
export function crc32(from: usize, end: usize, rest: u32): u32 {
  if (!isMade) makeTables();
  let at = from;
  rest = ~rest;
  for (; at + 16 <= end; at += 16) {
    const a = load<u64>(at) ^ <u64>rest;
    const b = load<u64>(at + 8);
    rest =
      part(15, <u32>a) ^
      part(14, <u32>(a >> 8)) ^
      part(13, <u32>(a >> 16)) ^
      part(12, <u32>(a >> 24)) ^
      part(11, <u32>(a >> 32)) ^
      part(10, <u32>(a >> 40)) ^
      part(9, <u32>(a >> 48)) ^
      part(8, <u32>(a >> 56)) ^
      part(7, <u32>b) ^
      part(6, <u32>(b >> 8)) ^
      part(5, <u32>(b >> 16)) ^
      part(4, <u32>(b >> 24)) ^
      part(3, <u32>(b >> 32)) ^
      part(2, <u32>(b >> 40)) ^
      part(1, <u32>(b >> 48)) ^
      part(0, <u32>(b >> 56));
  }
  for (; at < end; at++) rest = (rest >> 8) ^ part(0, rest ^ <u32>load<u8>(at));
  return ~rest;
}

// @ts-ignore: decorator
@inline
function part(table: u32, byte: u32): u32 {
  return load<u32>(TABLES + (<usize>table << 10) + (<usize>(byte & 255) << 2));
}

function makeTables(): void {
  for (let byte: u32 = 0; byte < 256; byte++) {
    let rest = byte;
    for (let bit = 0; bit < 8; bit++) rest = (rest & 1) === 1 ? (rest >> 1) ^ 0xedb88320 : rest >> 1;
    store<u32>(TABLES + (<usize>byte << 2), rest);
  }
  for (let table: u32 = 1; table < 16; table++)
    for (let byte: u32 = 0; byte < 256; byte++) {
      const before = part(table - 1, byte);
      store<u32>(TABLES + (<usize>table << 10) + (<usize>byte << 2), (before >> 8) ^ part(0, before));
    }
  isMade = true;
}
