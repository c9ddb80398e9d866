export type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

/** An object, as against a list and plain values. */
export function isObject(value: Json): value is { [key: string]: Json } {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
