import type { z } from 'zod';

type SchemasOf<K extends readonly { schema: z.core.$ZodTypeDiscriminable }[]> = {
  -readonly [I in keyof K]: K[I]['schema'];
};

/** The schemas of a list of kinds, each with its own type, as a discriminated union takes them. */
export function schemasOf<const K extends readonly { schema: z.core.$ZodTypeDiscriminable }[]>(kinds: K): SchemasOf<K> {
  return kinds.map((kind) => kind.schema) as unknown as SchemasOf<K>;
}
