/** Columns of typed files: what each value is says the file, and nothing is guessed. */

import { ReceivedBuilder } from '../../table/builder.ts';
import { type Column, type CountedType, TAG_OF_TYPE, Tag } from '../../table/column.ts';
import { FineTime } from './exact-values.ts';

/** What a file says that a column holds; any: each value says it for itself. */
export type Holds = CountedType | 'text' | 'any';

/** Collects values in order. */
export class TypedColumn {
  private readonly builder: ReceivedBuilder;
  private readonly tags = new Set<number>();
  private row = 0;
  /** Times whose digits beyond the millisecond were dropped. */
  shortened = 0;

  constructor(
    private readonly holds: Holds,
    rows: number,
  ) {
    this.builder = new ReceivedBuilder(rows);
  }

  get length(): number {
    return this.row;
  }

  /** @param value null and undefined are blanks; dates as milliseconds of 1970 in a column of dates */
  push(value: unknown): void {
    const row = this.row++;
    if (value === null || value === undefined) return;
    const counted = this.counted(value);
    if (counted === undefined || Number.isNaN(counted.value)) {
      this.tags.add(Tag.text);
      this.builder.text(row, textOf(value));
      return;
    }
    const tag = TAG_OF_TYPE[counted.type];
    this.tags.add(tag);
    this.builder.counted(row, tag, counted.value);
  }

  private counted(value: unknown): { type: CountedType; value: number } | undefined {
    const { holds } = this;
    if (typeof value === 'boolean') return { type: 'yesno', value: value ? 1 : 0 };
    if (value instanceof FineTime) {
      if (value.hasFraction) this.shortened++;
      return { type: holds === 'time' ? 'time' : 'datetime', value: value.milliseconds };
    }
    if (value instanceof Date) {
      const ms = value.getTime();
      if (holds === 'date') return { type: 'date', value: Math.floor(ms / DAY) };
      return { type: 'datetime', value: ms };
    }
    if (typeof value === 'bigint') {
      const number = Number(value);
      // What a number would not keep stays as it is written.
      if (!Number.isSafeInteger(number)) return undefined;
      return this.figure(number);
    }
    return typeof value === 'number' ? this.figure(value) : undefined;
  }

  private figure(value: number): { type: CountedType; value: number } {
    const { holds } = this;
    if (holds === 'date') return { type: 'date', value: Math.floor(value / DAY) };
    if (holds === 'time' || holds === 'datetime') return { type: holds, value };
    if (holds === 'yesno') return { type: 'yesno', value: value === 0 ? 0 : 1 };
    return { type: 'number', value };
  }

  finish(): Column {
    const { holds, tags } = this;
    const column = this.builder.finish(this.row);
    // A column without a value is what the file says of it.
    if (holds !== 'any' && holds !== 'text' && column.type === 'text' && tags.size === 0)
      return { type: holds, values: new Float64Array(this.row).fill(Number.NaN) };
    const [only] = tags;
    if (column.type !== 'received' || tags.size !== 1 || only === Tag.text) return column;
    const { values } = column;
    for (let r = 0; r < this.row; r++) if (column.tags[r] === Tag.blank) values[r] = Number.NaN;
    const type = (Object.keys(TAG_OF_TYPE) as CountedType[]).find((one) => TAG_OF_TYPE[one] === only)!;
    return { type: holds === 'whole' && type === 'number' ? 'whole' : type, values };
  }
}

const DAY = 86_400_000;

function textOf(value: unknown): string {
  if (typeof value === 'string') return value;
  if (typeof value === 'number' || typeof value === 'bigint') return String(value);
  if (value instanceof Uint8Array) return bytesText(value);
  if (value instanceof FineTime) return value.toJSON();
  return JSON.stringify(value, (_, inner) => (typeof inner === 'bigint' ? jsonWhole(inner) : inner));
}

/** A whole number of 64 bits as a number where that keeps it, else as its text. */
export function jsonWhole(value: bigint): number | string {
  const number = Number(value);
  return Number.isSafeInteger(number) ? number : String(value);
}

/** Bytes that are text read as it, others as their digits. */
function bytesText(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
  }
}
