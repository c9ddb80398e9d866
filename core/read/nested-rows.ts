/** Lists inside lists as rows: the items of one list, with the fields of every level around them. */
import { isObject, type Json } from '../values/json.ts';

/** Levels of objects and lists that are looked into; what lies deeper stays JSON in its cell. */
export const MOST_LEVELS = 64;

/** A field of a row: where it stands and what it holds. */
export interface Found {
  /** Names from the level down, joined with points. */
  name: string;
  value: Json;
}

export interface NestedRow {
  /** For each level from the outside the fields found there. */
  levels: Found[][];
}

export interface NestedRows {
  rows: NestedRow[];
  /** Outer items whose list is empty or not there; they keep a row with their own fields. */
  childless: number;
  /** Paths of lists of objects beside the way, which stay JSON. */
  besides: Set<string>;
}

/** '$.sailings[*].bookings[*]' as the names of its lists: ['sailings', 'bookings']; '' is a list at the root. */
export function pathNames(path: string): string[] | undefined {
  if (!/^\$(?:(?:\.[^.[\]]+)*\[\*\])*(?:\.[^.[\]]+)*$/.test(path)) return undefined;
  const lists = path.slice(1).split('[*]');
  if (lists.length === 1) return [];
  return lists.slice(0, -1).map((piece) => piece.replace(/^\./, ''));
}

/** The rows of a path (RFC 9535: names and [*]). */
export function nestedRows(root: Json, names: readonly string[], joinWith: string): NestedRows {
  const found: NestedRows = { rows: [], childless: 0, besides: new Set() };
  const walk = (value: Json, level: number, outer: Found[][]): void => {
    const next = names[level];
    const own = level === 0 && next === '' ? [] : fieldsOf(value, next, joinWith, found.besides);
    const levels = [...outer, own];
    if (next === undefined) {
      found.rows.push({ levels });
      return;
    }
    const list = next === '' ? value : valueAt(value, next);
    const items = Array.isArray(list) ? list : list === undefined || list === null ? [] : [list];
    if (items.length === 0) {
      found.childless++;
      found.rows.push({ levels });
    }
    for (const item of items) walk(item, level + 1, levels);
  };
  walk(root, 0, []);
  return found;
}

function valueAt(value: Json, path: string): Json | undefined {
  return path
    .split('.')
    .reduce<Json | undefined>((at, name) => (at !== undefined && isObject(at) ? at[name] : undefined), value);
}

/** The plain fields of an item, objects inside by dotted name, without the list that the way goes through. */
function fieldsOf(value: Json, without: string | undefined, joinWith: string, besides: Set<string>): Found[] {
  if (!isObject(value)) return [{ name: 'value', value: Array.isArray(value) ? JSON.stringify(value) : value }];
  const fields: Found[] = [];
  const into = (object: { [key: string]: Json }, prefix: string, depth: number) => {
    for (const [key, one] of Object.entries(object)) {
      const name = prefix + key;
      if (name === without) continue;
      if (isObject(one) && depth < MOST_LEVELS) into(one, `${name}.`, depth + 1);
      else if (Array.isArray(one)) fields.push({ name, value: listCell(one, name, joinWith, besides) });
      else fields.push({ name, value: isObject(one) ? JSON.stringify(one) : one });
    }
  };
  into(value, '', 0);
  return fields;
}

/** Plain values are joined; a list of objects beside the way stays JSON, since going down two lists would multiply. */
function listCell(list: readonly Json[], name: string, joinWith: string, besides: Set<string>): Json {
  if (list.length === 0) return null;
  if (list.every((item) => item === null || typeof item !== 'object'))
    return list.map((item) => (item === null ? '' : String(item))).join(joinWith);
  besides.add(name);
  return JSON.stringify(list);
}

/** Paths of all lists, with how many items they hold in all; those of objects first, the longest first. */
export function listPaths(root: Json): { path: string; items: number; objects: boolean }[] {
  const counts = new Map<string, { items: number; objects: boolean }>();
  const walk = (value: Json, path: string, depth: number): void => {
    if (depth > MOST_LEVELS) return;
    if (Array.isArray(value)) {
      const own = `${path}[*]`;
      const entry = counts.get(own) ?? { items: 0, objects: false };
      entry.items += value.length;
      entry.objects ||= value.some(isObject);
      counts.set(own, entry);
      for (const item of value) walk(item, own, depth + 1);
    } else if (isObject(value)) {
      for (const [key, one] of Object.entries(value)) if (!/[.[\]]/.test(key)) walk(one, `${path}.${key}`, depth + 1);
    }
  };
  walk(root, '$', 0);
  return [...counts]
    .map(([path, entry]) => ({ path, ...entry }))
    .sort((a, b) => Number(b.objects) - Number(a.objects) || b.items - a.items);
}
