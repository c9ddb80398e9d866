/** Keys of a document that its schema does not know: a misspelt one would otherwise be passed over without a word. */
import { z } from 'zod';
import { mostAlike } from '../values/likeness.ts';

/** The first key of the input that did not come through the schema, as a path; undefined where all did. */
export function unknownKey(input: unknown, parsed: unknown, path: readonly string[] = []): string[] | undefined {
  if (Array.isArray(input) && Array.isArray(parsed)) {
    for (const [k, item] of input.entries()) {
      const found = unknownKey(item, parsed[k], [...path, String(k)]);
      if (found !== undefined) return found;
    }
    return undefined;
  }
  if (!isPlain(input) || !isPlain(parsed)) return undefined;
  for (const [key, value] of Object.entries(input)) {
    if (value === undefined) continue;
    if (!Object.hasOwn(parsed, key)) return [...path, key];
    const found = unknownKey(value, parsed[key], [...path, key]);
    if (found !== undefined) return found;
  }
  return undefined;
}

function isPlain(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** 'There is no desc here; the nearest is descending' */
export function unknownKeyText(path: readonly string[], schema: z.ZodType): string {
  const key = path.at(-1)!;
  const nearest = mostAlike(key, [...keysOf(schema)]);
  const where = path.length > 1 ? ` in ${path.slice(0, -1).join('.')}` : '';
  return `there is no ${key}${where}${nearest === undefined ? '' : `; the nearest name is ${nearest}`}`;
}

/** Names of all properties anywhere in a schema. */
function keysOf(schema: z.ZodType): Set<string> {
  const found = new Set<string>();
  const walk = (part: unknown): void => {
    if (Array.isArray(part)) part.forEach(walk);
    if (!isPlain(part)) return;
    if (isPlain(part['properties'])) for (const key of Object.keys(part['properties'])) found.add(key);
    Object.values(part).forEach(walk);
  };
  walk(z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }));
  return found;
}

/** A JSON Schema whose objects take no other properties than it names. */
export function closed(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(closed);
  if (!isPlain(schema)) return schema;
  const parts = Object.fromEntries(Object.entries(schema).map(([key, part]) => [key, closed(part)]));
  return isPlain(schema['properties']) && schema['additionalProperties'] === undefined
    ? { ...parts, additionalProperties: false }
    : parts;
}
