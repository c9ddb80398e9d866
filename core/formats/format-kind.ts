import { z } from 'zod';

/** A choice about an export, as it is offered: the values of a param with the words that stand for them. */
export interface FormatChoice {
  param: string;
  label: string;
  words: readonly (readonly [value: string | boolean, words: string])[];
  /** Offered only where the other choices leave it open. */
  when?(spec: Readonly<Record<string, unknown>>): boolean;
}

/** What a format cannot hold, asked before anything is written. */
export interface FormatLimits {
  /** Characters of one cell. */
  cell?: number;
  /** It keeps counted values in the bits of their kind, which end somewhere. */
  typed?: true;
  /** It cannot write control characters. */
  noControls?: true;
  /** It can write half of a surrogate pair down. */
  halves?(spec: Readonly<Record<string, unknown>>): boolean;
}

/** One export format: all that is said of it. What writes it stands beside the others in export.ts. */
export interface FormatKind<S extends z.ZodObject> {
  /** Its params: as, unreadable, and what is its own. */
  schema: S;
  title: string;
  ending: string;
  /** Media type (IANA). */
  type: string;
  /** One file can hold several tables. */
  many?: true;
  choices?: readonly FormatChoice[];
  limits?: FormatLimits;
}

/** What every export may be asked. */
const Common = {
  unreadable: z.enum(['text', 'blank', 'stop']).default('text').describe('What an unreadable cell gives'),
};

/** A format under its name, with its own params beside those that every export has. */
export function format<A extends string, S extends z.ZodRawShape>(
  as: A,
  shape: S,
  about: Omit<FormatKind<z.ZodObject>, 'schema'>,
) {
  return { ...about, schema: z.object({ as: z.literal(as), ...Common, ...shape }) };
}

/** Words for a choice of yes and no. */
export function yesNo(no: string, yes: string): FormatChoice['words'] {
  return [
    [false, no],
    [true, yes],
  ];
}
