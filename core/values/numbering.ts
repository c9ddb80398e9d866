/**
 * Whether texts, in the order of their rows, are numbering as 1.1, 1.2, 2.1 is: numbers that count up behind the point
 * and begin again with each before it. What numbers rows is no figure: 1.1 and 1.10 are two places.
 */
export function isNumbering(texts: Iterable<string>): boolean {
  let [before, last, begun, count] = ['', 0, 0, 0];
  for (const text of texts) {
    const parts = /^(\d+)(?:\.(\d+))?$/.exec(text);
    if (parts === null) return false;
    const [, front = '', behind = '0'] = parts;
    const isNew = front !== before;
    if (isNew ? Number(behind) > 1 : Number(behind) !== last + 1) return false;
    if (isNew) begun++;
    count++;
    [before, last] = [front, Number(behind)];
  }
  return begun >= 2 && count > begun;
}
