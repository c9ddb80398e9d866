/** Vectors made by plain loops: typed arrays made from iterators are many times slower. */

/** [0, 1, 2 ... n - 1] */
export function rowNumbers(n: number): Int32Array {
  const rows = new Int32Array(n);
  for (let r = 0; r < n; r++) rows[r] = r;
  return rows;
}

export function intVector(n: number, of: (row: number) => number): Int32Array {
  const out = new Int32Array(n);
  for (let r = 0; r < n; r++) out[r] = of(r);
  return out;
}

export function floatVector(n: number, of: (row: number) => number): Float64Array {
  const out = new Float64Array(n);
  for (let r = 0; r < n; r++) out[r] = of(r);
  return out;
}

/** The rows are 0, 1, 2 ... n - 1, so taking them changes nothing. */
export function isEveryRow(rows: Int32Array, n: number): boolean {
  if (rows.length !== n) return false;
  for (let r = 0; r < n; r++) if (rows[r] !== r) return false;
  return true;
}

/** The first of rows that follow each other; -1 where they do not, or there are none. */
export function firstOfStretch(rows: Int32Array): number {
  const from = rows[0] ?? -1;
  if (from < 0 || rows.at(-1) !== from + rows.length - 1) return -1;
  for (let r = 0; r < rows.length; r++) if (rows[r] !== from + r) return -1;
  return from;
}

/** 1 for each item that passes the test, else 0. */
export function flags<T>(items: ArrayLike<T>, test: (item: T) => boolean): Uint8Array {
  const out = new Uint8Array(items.length);
  for (let k = 0; k < items.length; k++) out[k] = test(items[k]!) ? 1 : 0;
  return out;
}
