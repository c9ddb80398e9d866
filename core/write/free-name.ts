/**
 * A name with a number behind it where it is taken, upper and lower case being one as in workbooks and many file systems.
 *
 * @param taken names in lower case; the name given is added
 */
export function freeName(name: string, taken: Set<string>): string {
  let own = name;
  for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${name} ${n}`;
  taken.add(own.toLowerCase());
  return own;
}
