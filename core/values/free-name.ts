/**
 * A name with a number where it is taken, upper and lower case being one as in workbooks and many file systems.
 *
 * @param taken names in lower case; the name given is added
 * @param number how a name gets its number
 */
export function freeName(
  name: string,
  taken: Set<string>,
  number: (name: string, n: number) => string = (one, n) => `${one} ${n}`,
): string {
  let own = name;
  for (let n = 2; taken.has(own.toLowerCase()); n++) own = number(name, n);
  taken.add(own.toLowerCase());
  return own;
}

/** The name of a file with a number in front of its ending. */
export function numberedFile(name: string, n: number): string {
  return name.replace(/(\.[^./]*)?$/, ` ${n}$1`);
}
