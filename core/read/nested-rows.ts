/** Lists inside lists as rows: the items of one list, with the fields of every level around them. */

import { ReceivedBuilder } from '../table/builder.ts';
import { type Column, Tag } from '../table/column.ts';
import { columnLetters } from '../table/table.ts';
import { grouped } from '../values/counted.ts';
import { isObject, type Json } from '../values/json.ts';
import { MAX_COLUMNS, ReadFailure, tooBlank } from './read-failure.ts';
import type { Source } from './read-kind.ts';

/** Levels of objects and lists that are looked into; what lies deeper stays JSON in its cell. */
export const MAX_LEVELS = 64;

/** Takes the fields of rows as they are found. */
export interface FieldColumn {
  /** Names from the level down, joined with points. */
  name: string;
  /** Level from the outside. */
  level: number;
  builder: CellBuilder;
}

/** Collects the cells of a field, row by row in any order. */
export interface CellBuilder {
  text(row: number, text: string): void;
  counted(row: number, tag: number, value: number): void;
  /** @param rows as many as there are */
  finish(rows: number): Column;
}

export interface NestedRows {
  rows: number;
  /** In order of appearance. */
  columns: FieldColumn[];
  /** Outer items whose list is empty or not there; they keep a row with their own fields. */
  childless: number[];
  /** Paths of lists of objects beside the way, which stay JSON. */
  besides: Set<string>;
  /** Lists on the way that were there at least once, from the outside. */
  met: number;
  /** Items are lists of plain values, whose columns are named by where they stand. */
  positioned?: true;
}

/**
 * '$.sailings[*].bookings[*]' as the names of its lists: ['sailings', 'bookings']; '' is a list at the root, '*' every
 * member of an object, whose names are values.
 */
export function pathNames(path: string): string[] | undefined {
  if (!/^\$(?:(?:\.[^.[\]]+)*\[\*\])*(?:\.[^.[\]]+)*$/.test(path)) return undefined;
  const lists = path.slice(1).split('[*]');
  if (lists.length === 1) return [];
  return lists.slice(0, -1).map((piece) => piece.replace(/^\./, ''));
}

/** Fields of outer levels are repeated for every row: this number of cells always, and beyond it a number for each byte. */
const MAX_REPEATED = 10_000_000;
const REPEATED_FOR_BYTE = 2;

/**
 * The rows of a path (RFC 9535: names and [*]).
 * @param source for its name and size
 * @throws ReadFailure when the rows have too many fields, or fill more cells than there is room for
 */
export function nestedRows(source: Source, root: Json, names: readonly string[], joinWith: string): NestedRows {
  return new RowWalk(source, names, joinWith).all(root);
}

/** A name on one level: the column it fills, or the names inside of it. */
export interface Slot {
  name: string;
  column?: FieldColumn;
  inside: Map<string, Slot>;
}

type Filled = [FieldColumn, Json];

export class RowWalk {
  readonly found: NestedRows = { rows: 0, columns: [], childless: [], besides: new Set(), met: 0 };
  private readonly levels: Map<string, Slot>[] = [];

  /** Cells filled so far. */
  private filled = 0;
  private repeated = 0;

  constructor(
    private readonly source: Source,
    private readonly names: readonly string[],
    private readonly joinWith: string,
    private readonly makeBuilder: () => CellBuilder = () => new ReceivedBuilder(64),
  ) {}

  all(root: Json): NestedRows {
    this.walk(root, 0, []);
    return this.end();
  }

  /** One item of a list at the root, where items come one by one. */
  item(item: Json): void {
    this.found.met = Math.max(this.found.met, 1);
    this.walk(item, 1, []);
  }

  /** Names of the fields of items, once an item was walked. */
  get slots(): ReadonlyMap<string, Slot> {
    return this.levels[1] ?? new Map();
  }

  /** Rows whose cells were put into the columns' builders elsewhere. */
  rowsPut(rows: number, cells: number): void {
    this.found.met = Math.max(this.found.met, 1);
    this.found.rows += rows;
    this.filled += cells;
  }

  /** @throws ReadFailure when the rows are mostly blank, and too many */
  end(): NestedRows {
    const { rows, columns } = this.found;
    const blank = tooBlank(rows, columns.length, this.filled);
    if (blank !== undefined)
      this.refuse(`would hold ${grouped(blank)} blank cells, since its items have few fields in common`);
    return this.found;
  }

  private walk(value: Json, level: number, outer: readonly Filled[]): void {
    const next = this.names[level];
    if (next === undefined) {
      this.row(outer);
      this.fields(value, level, undefined, (column, cell) => this.put(column, cell));
      this.found.rows++;
      return;
    }
    if (next === '*' || next.endsWith('.*')) {
      this.members(value, level, outer, next.slice(0, -2));
      return;
    }
    const own = [...outer];
    if (!(level === 0 && next === '')) this.fields(value, level, next, (column, cell) => own.push([column, cell]));
    const list = next === '' ? value : valueAt(value, next);
    const items = Array.isArray(list)
      ? list
      : list === undefined || list === null
        ? []
        : (parallelRows(list) ?? [list]);
    if (list !== undefined && list !== null) this.found.met = Math.max(this.found.met, level + 1);
    if (items.length === 0) {
      this.found.childless.push(this.found.rows);
      this.row(own);
      this.found.rows++;
    }
    this.repeated += items.length * own.length;
    if (this.repeated > Math.max(MAX_REPEATED, REPEATED_FOR_BYTE * this.source.bytes.length))
      this.refuse('would repeat very many fields from around its items');
    for (const item of items) this.walk(item, level + 1, own);
  }

  /** Members of an object that names serve as values for: each name comes along as a field. */
  private members(value: Json, level: number, outer: readonly Filled[], at: string): void {
    const own = [...outer];
    const object = (at === '' ? value : valueAt(value, at)) ?? null;
    const named = isObject(object)
      ? Object.entries(object).filter(([, one]) => typeof one === 'object' && one !== null)
      : [];
    const beside =
      at === '' && isObject(value)
        ? Object.fromEntries(Object.entries(value).filter(([key]) => !named.some(([name]) => name === key)))
        : value;
    this.fields(beside, level, at === '' ? undefined : at, (column, cell) => own.push([column, cell]));
    if (named.length > 0) this.found.met = Math.max(this.found.met, level + 1);
    this.levels[level] ??= new Map();
    const name = this.columnOf(this.slot(this.levels[level], 'key', ''), level);
    for (const [key, one] of named) {
      const items = Array.isArray(one) ? one : [one];
      this.repeated += items.length * own.length;
      for (const item of items) this.walk(item, level + 1, [...own, [name, key]]);
    }
  }

  private row(outer: readonly Filled[]): void {
    for (const [column, cell] of outer) this.put(column, cell);
  }

  private put(column: FieldColumn, cell: Json): void {
    this.filled++;
    put(column.builder, this.found.rows, cell);
  }

  private refuse(why: string): never {
    throw new ReadFailure(
      this.source.name,
      `The table of ${this.source.name} ${why}: there is no room for it. Choose another list whose items become rows.`,
    );
  }

  /** The plain fields of an item, objects inside by dotted name, without the list that the way goes through. */
  private fields(value: Json, level: number, without: string | undefined, take: (of: FieldColumn, cell: Json) => void) {
    this.levels[level] ??= new Map();
    const top = this.levels[level];
    if (isPlainList(value)) {
      this.found.positioned = true;
      value.forEach((one, k) => {
        take(this.columnOf(this.slot(top, columnLetters(k), ''), level), one);
      });
      return;
    }
    if (!isObject(value)) {
      const slot = this.slot(top, 'value', '');
      take(this.columnOf(slot, level), Array.isArray(value) ? JSON.stringify(value) : value);
      return;
    }
    const into = (object: { [key: string]: Json }, slots: Map<string, Slot>, prefix: string, depth: number) => {
      for (const key in object) {
        const one = object[key]!;
        const slot = this.slot(slots, key, prefix);
        if (slot.name === without) continue;
        if (typeof one !== 'object' || one === null) take(this.columnOf(slot, level), one);
        else if (Array.isArray(one))
          take(this.columnOf(slot, level), listCell(one, slot.name, this.joinWith, this.found.besides));
        else if (depth < MAX_LEVELS) into(one, slot.inside, `${slot.name}.`, depth + 1);
        else take(this.columnOf(slot, level), JSON.stringify(one));
      }
    };
    into(value, top, '', 0);
  }

  private slot(slots: Map<string, Slot>, key: string, prefix: string): Slot {
    let slot = slots.get(key);
    if (slot === undefined) {
      slot = { name: prefix + key, inside: new Map() };
      slots.set(key, slot);
    }
    return slot;
  }

  private columnOf(slot: Slot, level: number): FieldColumn {
    if (slot.column === undefined) {
      if (this.found.columns.length >= MAX_COLUMNS) this.refuse(`would have more than ${grouped(MAX_COLUMNS)} columns`);
      slot.column = { name: slot.name, level, builder: this.makeBuilder() };
      this.found.columns.push(slot.column);
    }
    return slot.column;
  }
}

export function put(builder: CellBuilder, row: number, value: Json): void {
  if (typeof value === 'number') builder.counted(row, Tag.number, value);
  else if (typeof value === 'boolean') builder.counted(row, Tag.yesno, value ? 1 : 0);
  else if (typeof value === 'string') builder.text(row, value);
}

function valueAt(value: Json, path: string): Json | undefined {
  return path
    .split('.')
    .reduce<Json | undefined>((at, name) => (at !== undefined && isObject(at) ? at[name] : undefined), value);
}

/** A row written as a list of its cells. */
function isPlainList(value: Json): value is Json[] {
  return Array.isArray(value) && value.length > 1 && value.every((one) => one === null || typeof one !== 'object');
}

/** Plain values are joined; a list of objects beside the way stays JSON, since going down two lists would multiply. */
export function listCell(list: readonly Json[], name: string, joinWith: string, besides: Set<string>): Json {
  if (list.length === 0) return null;
  if (list.every((item) => item === null || typeof item !== 'object'))
    return list.map((item) => (item === null ? '' : String(item))).join(joinWith);
  besides.add(name);
  return JSON.stringify(list);
}

/** Names that are values, as 'North' or '2031', and no names of fields. */
const NAMES_A_VALUE = /^\p{Lu}.*\p{Ll}|\s|^\d|\p{Ll}-\p{Lu}/u;

/** Members of an object that are lists of objects, or objects, with the same fields under names that are values. */
function keyedMembers(object: { [key: string]: Json }): Json[] | undefined {
  const entries = Object.entries(object).filter(([, one]) => typeof one === 'object' && one !== null);
  const lists = entries.every(([, one]) => Array.isArray(one) && one.some(isObject));
  if (entries.length < (lists ? 2 : 3) || entries.length < Object.keys(object).length * 0.6) return undefined;
  if (entries.filter(([key]) => NAMES_A_VALUE.test(key)).length < entries.length * 0.8) return undefined;
  const fields = entries.map(([, one]) => {
    const first = Array.isArray(one) ? one.find(isObject) : one;
    return first !== undefined && isObject(first) ? Object.keys(first) : [];
  });
  const [lead = []] = fields;
  const alike = fields.every(
    (own) => own.length > 0 && own.filter((name) => lead.includes(name)).length >= own.length * 0.6,
  );
  return alike && (lists || entries.every(([, one]) => isObject(one))) ? entries.map(([, one]) => one) : undefined;
}

const MIN_PARALLEL = 2;

/** The rows of an object that holds a table as a list for each column; undefined for any other value. */
export function parallelRows(value: Json): { [key: string]: Json }[] | undefined {
  if (!isObject(value)) return undefined;
  const entries = Object.entries(value);
  const lists = entries.filter(([, one]) => Array.isArray(one));
  const length = (lists[0]?.[1] as Json[] | undefined)?.length ?? 0;
  if (lists.length < MIN_PARALLEL || length < MIN_PARALLEL) return undefined;
  const isParallel = ([, one]: [string, Json]) =>
    Array.isArray(one)
      ? one.length === length && one.every((item) => item === null || typeof item !== 'object')
      : one === null || typeof one !== 'object';
  if (!entries.every(isParallel)) return undefined;
  return Array.from({ length }, (_, k) =>
    Object.fromEntries(entries.map(([name, one]) => [name, Array.isArray(one) ? one[k]! : one])),
  );
}

/** Paths of all lists, with how many items they hold in all; those of objects first, the longest first. */
export function listPaths(root: Json): { path: string; items: number; objects: boolean; rows: boolean }[] {
  const counts = new Map<string, { items: number; objects: boolean; rows: boolean }>();
  const walk = (value: Json, path: string, depth: number): void => {
    if (depth > MAX_LEVELS) return;
    if (Array.isArray(value)) {
      const own = `${path}[*]`;
      const entry = counts.get(own) ?? { items: 0, objects: false, rows: false };
      entry.items += value.length;
      // Under the root alone such a list has its own header.
      entry.objects ||= value.some(isObject) || (path !== '$' && value.length > 1 && areRecords(value));
      entry.rows ||= value.length > 1 && value.every(isPlainList);
      counts.set(own, entry);
      if (!entry.rows) for (const item of value) walk(item, own, depth + 1);
    } else if (isObject(value)) {
      const rows = parallelRows(value);
      if (rows !== undefined) {
        const own = `${path}[*]`;
        counts.set(own, { items: (counts.get(own)?.items ?? 0) + rows.length, objects: true, rows: false });
        return;
      }
      const members = keyedMembers(value);
      if (members !== undefined) {
        for (const member of members) walk(Array.isArray(member) ? member : [member], `${path}.*`, depth + 1);
        return;
      }
      for (const [key, one] of Object.entries(value)) if (!/[.[\]]/.test(key)) walk(one, `${path}.${key}`, depth + 1);
    }
  };
  walk(root, '$', 0);
  return [...counts]
    .map(([path, entry]) => ({ path, ...entry }))
    .sort((a, b) => Number(b.objects) - Number(a.objects) || b.items - a.items);
}

/** Lists that begin with a text, as [date, value]: records; lists of numbers alone are places or a matrix. */
function areRecords(rows: readonly Json[]): boolean {
  return rows.every(
    (row) => isPlainList(row) && typeof row[0] === 'string' && row.some((one) => typeof one === 'number'),
  );
}
