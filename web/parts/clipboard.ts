/** Cells of a table on the clipboard, as a spreadsheet or a page puts them there; undefined where it holds no table. */
export function cellsOfClipboard(data: DataTransfer): string[][] | undefined {
  const text = data.getData('text/plain').replace(/\r\n?/g, '\n').replace(/\n$/, '');
  if (text === '') return undefined;
  return text.split('\n').map((line) => line.split('\t'));
}

/**
 * What is on the clipboard as its own file: a copied file, the cells of a spreadsheet with their merges as a page,
 * else its text. Undefined where it holds none of these.
 */
export function fileOfClipboard(data: DataTransfer): File | undefined {
  const [file] = data.files;
  const page = data.getData('text/html');
  // A spreadsheet puts a picture of its cells there too.
  if (/<table[\s>]/i.test(page)) return new File([page], 'pasted.html', { type: 'text/html' });
  if (file !== undefined) return file;
  const text = data.getData('text/plain');
  // Steps that were copied are put behind a step, not read as a report.
  if (/^\s*\{\s*"rimefield"\s*:\s*"steps"/.test(text)) return undefined;
  return text.trim() === '' ? undefined : new File([text], 'pasted.txt', { type: 'text/plain' });
}
