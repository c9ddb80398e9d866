/** XML 1.0 as nested values: attributes and elements are fields, an element that repeats anywhere is a list. */
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { isObject, type Json } from '../values/json.ts';
import { brief } from '../values/text.ts';
import { ReadFailure } from './read-failure.ts';

const ATTRIBUTE = '@';
const TEXT = '#text';

/**
 * Text stays text: nothing is made a number. Entities that stand outside the file are never fetched.
 * @throws ReadFailure with line and column where the text is not well formed
 */
export function readXml(text: string, file: string): Json {
  const external = /<!ENTITY\s+(?:%\s*)?[^\s>]+\s+(?:SYSTEM|PUBLIC)\b/i.exec(text);
  if (external !== null) {
    throw new ReadFailure(
      file,
      `${file} refers to an entity outside of itself (line ${lineAt(text, external.index)}). Such entities are never fetched: ask for the file without them.`,
    );
  }
  const valid = XMLValidator.validate(text, { allowBooleanAttributes: false });
  if (valid !== true) {
    const { msg, line, col } = valid.err;
    throw new ReadFailure(file, `${file} is not well-formed XML: line ${line}, character ${col}: ${brief(msg)}`);
  }
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: ATTRIBUTE,
    textNodeName: TEXT,
    parseTagValue: false,
    parseAttributeValue: false,
    trimValues: true,
    ignoreDeclaration: true,
    ignorePiTags: true,
    processEntities: true,
    // Without it references by number (&#233;) stay as they are.
    htmlEntities: true,
  });
  let parsed: Json;
  try {
    parsed = parser.parse(text) as Json;
  } catch (error) {
    const { message } = error as Error;
    const reserved = /"([^"]+)" is a reserved/.exec(message)?.[1];
    throw new ReadFailure(
      file,
      reserved === undefined
        ? `${file} could not be read as XML: ${brief(message)}.`
        : `${file} has an element or attribute called ${reserved}, a name that cannot be read. Ask for it with another name.`,
    );
  }
  const lists = new Set<string>();
  findLists(parsed, '', lists);
  return plainFields(parsed, '', lists);
}

function lineAt(text: string, index: number): number {
  return text.slice(0, index).split('\n').length;
}

function findLists(value: Json, path: string, lists: Set<string>): void {
  if (Array.isArray(value)) {
    lists.add(path);
    for (const item of value) findLists(item, path, lists);
  } else if (isObject(value)) {
    for (const [key, one] of Object.entries(value)) findLists(one, `${path}/${key}`, lists);
  }
}

/** Plain names for attributes and text, and lists where an element is one anywhere else. */
function plainFields(value: Json, path: string, lists: ReadonlySet<string>): Json {
  if (Array.isArray(value)) return value.map((item) => plainFields(item, path, lists));
  if (!isObject(value)) return value === '' ? null : value;
  const fields: { [key: string]: Json } = {};
  // Attributes stand in front of elements in the text, and so they do here.
  const isAttribute = ([key]: [string, Json]) => Number(key.startsWith(ATTRIBUTE));
  for (const [key, one] of Object.entries(value).sort((a, b) => isAttribute(b) - isAttribute(a))) {
    const below = `${path}/${key}`;
    const bare = key === TEXT ? 'text' : key.startsWith(ATTRIBUTE) ? key.slice(1) : key;
    const name = bare === key || bare in value ? key : bare;
    const field = plainFields(one, below, lists);
    fields[name] = lists.has(below) && !Array.isArray(one) ? [field] : field;
  }
  return fields;
}
