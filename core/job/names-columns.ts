/** Whether params name any of these columns: as a value on its own, or quoted or bare in an expression. */
export function namesColumns(params: unknown, names: ReadonlySet<string>): boolean {
  if (typeof params === 'string') {
    if (names.has(params)) return true;
    return [...names].some((name) => params.includes(`"${name}"`) || (isPlain(name) && hasWord(params, name)));
  }
  if (Array.isArray(params)) return params.some((one) => namesColumns(one, names));
  if (typeof params === 'object' && params !== null) {
    return Object.entries(params).some(([key, one]) => names.has(key) || namesColumns(one, names));
  }
  return false;
}

function isPlain(name: string): boolean {
  return /^[A-Za-z_]\w*$/.test(name);
}

function hasWord(text: string, word: string): boolean {
  return new RegExp(`(?<![\\w"'])${word}(?![\\w"'])`).test(text);
}
