import { escapeRegExp } from './text.ts';

/**
 * A template with named pieces in braces, 'HU-{Number}/{Part}', as a pattern. A piece takes as little as it can; a
 * blank stands for any run of blanks; {} reads over a piece.
 *
 * @throws Error when a brace is never closed, a name stands twice, or two pieces touch with nothing between them
 */
export function compileTemplate(template: string): { pattern: RegExp; names: string[] } {
  const names: string[] = [];
  let source = '';
  let touching = false;
  for (let at = 0; at < template.length; ) {
    if (template[at] === '{') {
      const end = template.indexOf('}', at);
      if (end < 0) throw new Error(`The { at character ${at + 1} of ${template} is never closed`);
      if (touching)
        throw new Error(`Two pieces touch at character ${at + 1} of ${template}: put what stands between them`);
      const name = template.slice(at + 1, end).trim();
      if (name !== '' && names.includes(name)) throw new Error(`The piece ${name} stands twice in ${template}`);
      if (name !== '') names.push(name);
      source += name === '' ? '(?:[^]*?)' : '([^]*?)';
      touching = true;
      at = end + 1;
    } else {
      const blanks = /^\s+/.exec(template.slice(at));
      source += blanks === null ? escapeRegExp(template[at]!) : '\\s+';
      touching = false;
      at += blanks === null ? 1 : blanks[0].length;
    }
  }
  return { pattern: new RegExp(`^${source}$`, 'u'), names };
}
