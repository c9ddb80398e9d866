/** What texts in the params of a step stand for, marked on their schema, and the one walk through params that tells. */
import { z } from 'zod';
import { type Node, parse } from '../formula/parse.ts';

export type ParamRole =
  /** A column of the table that the step takes in. */
  | 'column'
  /** A column of another table that the step reads. */
  | 'other column'
  /** An expression over the columns of the table that the step takes in. */
  | 'expression'
  /** Another table of the job, by its id. */
  | 'table';

const marks = z.registry<{ stands: ParamRole }>();

/** Marks a schema. On a set of columns, or whatever else has marks inside, it takes their place. */
export function standsFor<S extends z.ZodType>(stands: ParamRole, schema: S): S {
  marks.add(schema, { stands });
  return schema;
}

/** The name of a column of the table that a step takes in. */
export function columnName(): z.ZodString {
  return standsFor('column', z.string());
}

/** A SQL expression over the columns of a row. */
export function expressionText(): z.ZodString {
  return standsFor('expression', z.string());
}

/** The id of another table of the job. */
export function tableId(): z.ZodString {
  return standsFor('table', z.string());
}

/**
 * Params with every marked text put through a function: what stands for nothing stays as it is.
 * @param params as the schema gives them
 */
export function mapMarked(
  schema: z.ZodType,
  params: unknown,
  change: (stands: ParamRole, text: string) => string,
): unknown {
  return walk(schema, params, undefined, change);
}

/** Every marked text, in the order in which it stands. */
export function markedIn(schema: z.ZodType, params: unknown): { stands: ParamRole; text: string }[] {
  const found: { stands: ParamRole; text: string }[] = [];
  walk(schema, params, undefined, (stands, text) => {
    found.push({ stands, text });
    return text;
  });
  return found;
}

/** Whether params name any of these columns of the table that the step takes in, in an expression too. */
export function namesColumns(schema: z.ZodType, params: unknown, names: ReadonlySet<string>): boolean {
  return markedIn(schema, params).some(({ stands, text }) => {
    if (stands === 'column') return names.has(text);
    if (stands !== 'expression') return false;
    return columnsOf(text).some(({ name, quoted }) =>
      quoted ? names.has(name) : [...names].some((one) => one.toLowerCase() === name.toLowerCase()),
    );
  });
}

/** Ids of the other tables that params name, in order. */
export function tablesIn(schema: z.ZodType, params: unknown): string[] {
  return markedIn(schema, params)
    .filter(({ stands }) => stands === 'table')
    .map(({ text }) => text);
}

/** The columns that an expression names; none where it cannot be read. */
function columnsOf(text: string): { name: string; quoted: boolean }[] {
  const found: { name: string; quoted: boolean }[] = [];
  const visit = (value: unknown): void => {
    if (Array.isArray(value)) for (const one of value) visit(one);
    else if (typeof value === 'object' && value !== null) {
      const node = value as Node;
      if (node.node === 'column') found.push(node);
      else for (const one of Object.values(value)) visit(one);
    }
  };
  try {
    visit(parse(text));
  } catch {
    // What is wrong with it is said where it is run.
  }
  return found;
}

type Change = (stands: ParamRole, text: string) => string;

/** @param outer what a schema further out stands for: it takes the place of the marks inside */
function walk(schema: z.core.$ZodType, value: unknown, outer: ParamRole | undefined, change: Change): unknown {
  if (value === undefined || value === null) return value;
  const own = marks.get(schema as z.ZodType)?.stands;
  const inside = innerOf(schema) ?? optionOf(schema, value);
  if (inside !== undefined) return walk(inside, value, outer ?? own, change);
  if (typeof value === 'string') return own === undefined ? value : change(outer ?? own, value);
  const into = (of: z.core.$ZodType, one: unknown) => walk(of, one, outer ?? own, change);
  const def = schema._zod.def as z.core.$ZodTypes['_zod']['def'];
  if (def.type === 'array' && Array.isArray(value)) return value.map((one) => into(def.element, one));
  if (def.type === 'record')
    return Object.fromEntries(
      Object.entries(value).map(([key, one]) => [into(def.keyType, key) as string, into(def.valueType, one)]),
    );
  if (def.type === 'object')
    return Object.fromEntries(
      Object.entries(value).map(([key, one]) => {
        const of = def.shape[key];
        return [key, of === undefined ? one : into(of, one)];
      }),
    );
  return value;
}

/** What a schema wraps that may be left out or has a default. */
function innerOf(schema: z.core.$ZodType): z.core.$ZodType | undefined {
  const def = schema._zod.def as z.core.$ZodTypes['_zod']['def'];
  return 'innerType' in def ? def.innerType : undefined;
}

/** Of several schemas the one that a value follows. */
function optionOf(schema: z.core.$ZodType, value: unknown): z.core.$ZodType | undefined {
  const def = schema._zod.def as z.core.$ZodTypes['_zod']['def'];
  return def.type === 'union' ? def.options.find((one) => z.safeParse(one, value).success) : undefined;
}
