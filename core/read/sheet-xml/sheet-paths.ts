import { decoderOf } from '../../table/decoder.ts';
import { walkTags } from './walk-tags.ts';

/** Returns the bytes of an archive entry; undefined if there is none. */
export type Entries = (path: string) => Uint8Array | undefined;

export const BOOK = 'xl/workbook.xml';
export const SHARED_TEXTS = 'xl/sharedStrings.xml';

/** Paths of the sheets by their names (ISO/IEC 29500-1, 18.2.19). Of two sheets of one name neither is reported. */
export function sheetPaths(entries: Entries): Map<string, string> {
  const relations = new Map<string, string>();
  const twice = new Set<string>();
  walkTags(textOf(entries(BOOK)), (tag, attributes) => {
    const name = attributes['name'];
    const relation = attributes['r:id'];
    if (tag !== 'sheet' || name === undefined || relation === undefined) return;
    if (relations.has(name)) twice.add(name);
    relations.set(name, relation);
  });
  const targets = new Map<string, string>();
  walkTags(textOf(entries('xl/_rels/workbook.xml.rels')), (tag, attributes) => {
    const { id, target } = attributes;
    if (tag === 'relationship' && id !== undefined && target !== undefined)
      targets.set(id, target.startsWith('/') ? target.slice(1) : `xl/${target}`);
  });
  const paths = new Map<string, string>();
  for (const [name, relation] of relations) {
    const path = targets.get(relation);
    if (path !== undefined && !twice.has(name)) paths.set(name, path);
  }
  return paths;
}

export function textOf(bytes: Uint8Array | undefined): string {
  return bytes === undefined ? '' : decoderOf('utf-8').decode(bytes);
}
