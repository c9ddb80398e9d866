import { Parser } from 'htmlparser2';

/** Calls at each tag, with names and attributes in small letters, and names without the prefix that some writers give. */
export function walkTags(
  xml: string,
  open: (tag: string, attributes: Record<string, string>) => void,
  close: (tag: string) => void = () => undefined,
): void {
  const plain = (name: string) => name.replace(/^x:/, '').toLowerCase();
  const parser = new Parser(
    {
      onopentag: (tag, attributes) =>
        open(
          plain(tag),
          Object.fromEntries(Object.entries(attributes).map(([name, value]) => [name.toLowerCase(), value])),
        ),
      onclosetag: (tag) => close(plain(tag)),
    },
    { xmlMode: true },
  );
  parser.end(xml);
}
