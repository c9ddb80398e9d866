/** The value at a dotted path of plain objects and arrays. */
export function getPath(of: unknown, path: string): unknown {
  return path.split('.').reduce<unknown>((value, key) => (value as Record<string, unknown> | undefined)?.[key], of);
}

/** A copy in which the value at the dotted path is another; undefined takes the key away. */
export function setPath<T>(of: T, path: string, value: unknown): T {
  const [key, ...rest] = path.split('.');
  if (Array.isArray(of)) {
    return of.map((item, k) =>
      String(k) === key ? (rest.length === 0 ? value : setPath(item, rest.join('.'), value)) : item,
    ) as T;
  }
  const copy: Record<string, unknown> = { ...(of as Record<string, unknown>) };
  if (rest.length > 0) copy[key!] = setPath(copy[key!] ?? {}, rest.join('.'), value);
  else if (value === undefined) delete copy[key!];
  else copy[key!] = value;
  return copy as T;
}
