/** How a column is written in an expression. */
export function columnText(name: string): string {
  return /^[a-z_][a-z\d_]*$/i.test(name) ? name : `"${name.replaceAll('"', '""')}"`;
}
