/** Rows that differ from the row before them. */

/**
 * Marks rows whose code is not that of the row before.
 * @param codes 32 bits each; one more stands before the first
 * @param count of codes, a multiple of 8
 * @param marks a bit for each row, which is set and never cleared
 */
export function markHeads(codes: usize, count: i32, marks: usize): void {
  const end = codes + (<usize>count << 2);
  for (let at = codes; at < end; at += 32, marks++) {
    const first = i32x4.bitmask(i32x4.ne(v128.load(at), v128.load(at - 4)));
    const second = i32x4.bitmask(i32x4.ne(v128.load(at + 16), v128.load(at + 12)));
    store<u8>(marks, load<u8>(marks) | first | (second << 4));
  }
}

/**
 * The rows that are marked.
 * @param marks a bit for each row
 * @param count of rows; bits behind them are not set
 * @param from the first row
 * @param out place for 32 bits for each row
 * @returns how many are marked
 */
export function markedRows(marks: usize, count: i32, from: i32, out: usize): i32 {
  let to = out;
  for (let k: i32 = 0; k < count; k += 64, marks += 8) {
    for (let bits = load<u64>(marks); bits !== 0; bits &= bits - 1, to += 4) store<i32>(to, from + k + <i32>ctz(bits));
  }
  return <i32>((to - out) >> 2);
}
