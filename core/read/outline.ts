/** What stands in nested text: its paths, how often each is there, and an example. */
import { isObject, type Json } from '../values/json.ts';
import { MAX_LEVELS } from './nested-rows.ts';

export interface OutlineNode {
  /** JSONPath (RFC 9535) of names and [*]. */
  path: string;
  /** The last name of the path; '' for a list at the root. */
  name: string;
  depth: number;
  kinds: readonly ('object' | 'list' | 'text' | 'number' | 'yes/no' | 'nothing')[];
  /** Share of the items around it that have it, 0 to 1. */
  share: number;
  example: string;
  /** Items of a list: fewest, most and in all; and whether they are objects. */
  items?: { least: number; most: number; all: number; objects: boolean };
}

interface Seen {
  node: Omit<OutlineNode, 'kinds' | 'share'> & { kinds: Set<OutlineNode['kinds'][number]> };
  times: number;
  /** Items around it. */
  of: () => number;
  children: Map<string, Seen>;
}

const MAX_EXAMPLE_LENGTH = 40;
/** Paths beyond these are not listed: values serve as names there. */
const MAX_PATHS = 2000;

/** Paths in order of appearance, each under the one it stands in. */
export function outlineOf(root: Json): OutlineNode[] {
  let paths = 0;
  const top: Map<string, Seen> = new Map();
  const look = (
    value: Json,
    name: string,
    path: string,
    depth: number,
    within: Map<string, Seen>,
    of: () => number,
  ) => {
    let seen = within.get(name);
    if (seen === undefined) {
      if (paths >= MAX_PATHS) return;
      paths++;
      seen = { node: { path, name, depth, kinds: new Set(), example: '' }, times: 0, of, children: new Map() };
      within.set(name, seen);
    }
    const own = seen;
    own.times++;
    const { node } = own;
    const kind = kindOf(value);
    node.kinds.add(kind);
    if (node.example === '' && kind !== 'object' && kind !== 'nothing') node.example = exampleOf(value);
    if (depth >= MAX_LEVELS) return;
    if (Array.isArray(value)) {
      const items = node.items ?? { least: value.length, most: 0, all: 0, objects: false };
      items.least = Math.min(items.least, value.length);
      items.most = Math.max(items.most, value.length);
      items.all += value.length;
      items.objects ||= value.some(isObject);
      node.items = items;
      const around = () => node.items!.all;
      for (const item of value) {
        if (isObject(item)) fields(item, `${path}[*]`, depth, own.children, around);
        else if (Array.isArray(item)) look(item, '', `${path}[*]`, depth + 1, own.children, around);
      }
    } else if (isObject(value)) fields(value, path, depth, own.children, () => own.times);
  };
  const fields = (
    object: { [key: string]: Json },
    path: string,
    depth: number,
    within: Map<string, Seen>,
    of: () => number,
  ) => {
    for (const [key, one] of Object.entries(object)) look(one, key, `${path}.${key}`, depth + 1, within, of);
  };
  if (isObject(root)) fields(root, '$', -1, top, () => 1);
  else look(root, '', '$', 0, top, () => 1);
  const nodes: OutlineNode[] = [];
  const lay = (within: ReadonlyMap<string, Seen>) => {
    for (const { node, times, of, children } of within.values()) {
      nodes.push({ ...node, kinds: [...node.kinds], share: Math.min(1, times / Math.max(1, of())) });
      lay(children);
    }
  };
  lay(top);
  return nodes;
}

function kindOf(value: Json): OutlineNode['kinds'][number] {
  if (value === null) return 'nothing';
  if (Array.isArray(value)) return 'list';
  if (typeof value === 'object') return 'object';
  if (typeof value === 'boolean') return 'yes/no';
  return typeof value === 'number' ? 'number' : 'text';
}

function exampleOf(value: Json): string {
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return text.length > MAX_EXAMPLE_LENGTH ? `${text.slice(0, MAX_EXAMPLE_LENGTH - 1)}…` : text;
}
