import { MODULE } from './module.ts';

/** What `source/` exports; places and sizes are bytes of the memory given. */
export interface Kernels {
  delimitedRows(
    from: number,
    end: number,
    base: number,
    columns: number,
    most: number,
    delimiter: number,
    quote: number,
    comment: number,
    flags: number,
    zeros: number,
    line: number,
    lines: number,
    starts: number,
    lengths: number,
    numbers: number,
    told: number,
  ): number;
  jsonLines(
    from: number,
    end: number,
    base: number,
    shapes: number,
    count: number,
    columns: number,
    most: number,
    tags: number,
    starts: number,
    counts: number,
    told: number,
  ): number;
  fixedWidth(
    from: number,
    end: number,
    base: number,
    cuts: number,
    count: number,
    rest: number,
    most: number,
    misfits: number,
    starts: number,
    lengths: number,
    told: number,
  ): number;
  sheetCells(
    from: number,
    end: number,
    base: number,
    row: number,
    column: number,
    most: number,
    rows: number,
    columns: number,
    styles: number,
    kinds: number,
    values: number,
    starts: number,
    lengths: number,
    told: number,
  ): number;
  numbers(
    from: number,
    end: number,
    first: number,
    count: number,
    starts: number,
    lengths: number,
    values: number,
    decimal: number,
    group: number,
    isWhole: number,
  ): number;
  readonly numbersLeadWithZero: { readonly value: number };
  rowBytes(
    parts: number,
    count: number,
    row: number,
    rows: number,
    number: number,
    texts: number,
    out: number,
    end: number,
  ): number;
  readonly rowBytesRows: { readonly value: number };
  readonly rowBytesPart: { readonly value: number };
  crc32(from: number, end: number, rest: number): number;
  numberCodes(
    values: number,
    rows: number,
    filled: number,
    codes: number,
    entries: number,
    most: number,
    slots: number,
    bits: number,
  ): number;
  markHeads(codes: number, count: number, marks: number): void;
  markedRows(marks: number, count: number, from: number, out: number): number;
  readonly numberCodesLeast: { readonly value: number };
  readonly numberCodesMost: { readonly value: number };
  readonly numberCodesFilled: { readonly value: number };
  hybrid(values: number, count: number, shift: number, width: number, out: number): number;
  textBounds(bytes: number, ends: number, count: number): number;
  readonly textBoundsMost: { readonly value: number };
  snappy(from: number, length: number, out: number, table: number): number;
}

/** Memory below it is the kernels' own. */
export const FREE_FROM = 65_536;
const PAGE = 65_536;

let compiled: WebAssembly.Module | undefined;
let isRefused = false;

/**
 * Kernels over their own memory.
 * @param size bytes that the caller needs from FREE_FROM on
 * @returns undefined where there is no WebAssembly, or the page's policy forbids it: everything works without
 */
export function kernels(size: number): { kernels: Kernels; memory: ArrayBuffer } | undefined {
  if (isRefused || typeof WebAssembly === 'undefined') return undefined;
  try {
    compiled ??= new WebAssembly.Module(moduleBytes());
    const memory = memoryFor(size);
    return { kernels: kernelsOver(compiled, memory), memory: memory.buffer };
  } catch {
    isRefused = true;
    return undefined;
  }
}

function memoryFor(size: number): WebAssembly.Memory {
  const pages = Math.ceil((FREE_FROM + size) / PAGE);
  return new WebAssembly.Memory({ initial: pages, maximum: pages });
}

function kernelsOver(module: WebAssembly.Module, memory: WebAssembly.Memory): Kernels {
  return new WebAssembly.Instance(module, { env: { memory } }).exports as unknown as Kernels;
}

function moduleBytes(): Uint8Array<ArrayBuffer> {
  return Uint8Array.from(atob(MODULE), (letter) => letter.charCodeAt(0));
}
