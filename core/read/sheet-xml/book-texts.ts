import { ByteDictionary } from '../../table/byte-dictionary.ts';
import { decodeRun } from '../../table/spans.ts';
import { ascii, EXCLAMATION, GREATER, LESS, SLASH, standsAt } from '../ascii.ts';
import { NotPlain } from '../not-plain.ts';
import { endsName } from './scan-cells.ts';

/** Codes from here on are those of texts that were put together from several runs. */
const MADE = 0x40000000;

/** The texts of a workbook, each different one once: its shared texts and those that stand in cells. */
export class BookTexts {
  private readonly plain = new ByteDictionary();
  private readonly made: string[] = [];
  private readonly codeOfMade = new Map<string, number>();
  /** Codes of the shared texts, in their order. */
  private shared = new Int32Array(0);
  private texts: readonly string[] | undefined;
  /** The code that stands for all of the same text. */
  private first: Int32Array | undefined;

  /** The code of no text at all. */
  private readonly blank = this.plain.code(new Uint8Array(), 0, 0);

  isEmpty(code: number): boolean {
    return code === this.blank || (code >= MADE && this.made[code - MADE] === '');
  }

  /** Takes the shared texts (ISO/IEC 29500-1, 18.4.9). @throws NotPlain */
  takeShared(bytes: Uint8Array): void {
    const codes: number[] = [];
    eachItem(
      bytes,
      (from, to) => codes.push(this.code(bytes, from, to)),
      (from, to) => codes.push(this.item(bytes, from, to)),
    );
    this.shared = Int32Array.from(codes);
  }

  /** @throws NotPlain where there is no such text */
  sharedCode(index: number): number {
    const code = this.shared[index];
    if (code === undefined) throw new NotPlain();
    return code;
  }

  /** A text as it stands between two tags. */
  code(bytes: Uint8Array, from: number, to: number): number {
    return this.plain.code(bytes, from, to);
  }

  /** What stands between the tags of a shared text: one text, or runs that are written in several ways. */
  item(bytes: Uint8Array, from: number, to: number): number {
    let at = from;
    while (at < to && bytes[at] !== LESS) at++;
    if (at === to) return this.code(bytes, from, from);
    const begin = behindTag(bytes, at, to);
    if (isText(bytes, at)) {
      if (bytes[begin - 2] === SLASH) return this.code(bytes, begin, begin);
      let end = begin;
      while (end < to && bytes[end] !== LESS) end++;
      if (bytes[end + 1] === SLASH) return this.code(bytes, begin, end);
    }
    const xml = decodeRun(bytes, from, to, 'utf-8');
    // How a text is read aloud stands beside it and is no part of it.
    const runs = xml.replace(/<(?:\w+:)?rPh\b[\s\S]*?<\/(?:\w+:)?rPh>/g, '').matchAll(TEXT);
    return this.madeCode(unescaped([...runs].map((run) => run[1]!).join('')));
  }

  private madeCode(text: string): number {
    let code = this.codeOfMade.get(text);
    if (code === undefined) {
      code = MADE + this.made.length;
      this.codeOfMade.set(text, code);
      this.made.push(text);
    }
    return code;
  }

  /** Ends the taking of texts. */
  finish(): void {
    let escaped = false;
    const texts = this.plain.texts('utf-8').map((text) => {
      if (!text.includes('&') && !text.includes('_x') && !text.includes('\r')) return text;
      escaped = true;
      return unescaped(text);
    });
    this.texts = texts;
    if (!escaped && this.made.length === 0) return;
    const all = [...texts, ...this.made];
    const known = new Map<string, number>();
    this.first = Int32Array.from(all, (text, code) => {
      const before = known.get(text);
      if (before === undefined) known.set(text, code);
      return before ?? code;
    });
    this.texts = all;
  }

  /** Different texts, once they are taken. */
  get count(): number {
    return this.texts!.length;
  }

  /** The code of a text among all, where equal texts have one. */
  final(code: number): number {
    const plain = this.first === undefined ? this.texts!.length : this.first.length - this.made.length;
    const all = code < MADE ? code : plain + code - MADE;
    return this.first?.[all] ?? all;
  }

  text(final: number): string {
    return this.texts![final]!;
  }
}

const TEXT = /<(?:\w+:)?t\b[^<>]*>([^<]*)<\/(?:\w+:)?t>/g;

/** What XML and the format write in place of letters (ISO/IEC 29500-1, 22.4.2.4 for those with underscores). */
export function unescaped(text: string): string {
  // Line ends of the markup itself are one line feed (XML 1.0, 2.11); those that are written as escapes stay.
  return text
    .replace(/\r\n?/g, '\n')
    .replace(/&(?:quot|apos|gt|lt|amp|#(\d+)|#x([\da-f]+));/gi, (whole, decimal?: string, hex?: string) => {
      const named = NAMED[whole];
      if (named !== undefined) return named;
      const point = decimal === undefined ? Number.parseInt(hex ?? '', 16) : Number(decimal);
      return point > 0 && point <= 0x10ffff ? String.fromCodePoint(point) : whole;
    })
    .replace(/_x([\da-f]{4})_/gi, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)));
}

const NAMED: Record<string, string> = { '&quot;': '"', '&apos;': "'", '&gt;': '>', '&lt;': '<', '&amp;': '&' };

const ITEM = ascii('si');
const TABLE = ascii('sst');
/** What stands around most texts. */
const OPENING = ascii('<si><t>');
const CLOSING = ascii('</t></si>');

/**
 * Calls with where each shared text stands: the text itself where nothing else stands in its item, otherwise what is
 * between the tags of the item.
 * @throws NotPlain
 */
function eachItem(
  bytes: Uint8Array,
  text: (from: number, to: number) => void,
  item: (from: number, to: number) => void,
): void {
  const end = bytes.length;
  let at = 0;
  let open = false;
  while (at < end) {
    while (at < end && bytes[at] !== LESS) at++;
    if (at >= end) break;
    if (open && standsAt(bytes, at, OPENING)) {
      const from = at + OPENING.length;
      let to = from;
      while (to < end && bytes[to] !== LESS) to++;
      if (standsAt(bytes, to, CLOSING)) {
        text(from, to);
        at = to + CLOSING.length;
        continue;
      }
    }
    if (bytes[at + 1] === EXCLAMATION) throw new NotPlain();
    const closes = bytes[at + 1] === SLASH;
    const name = nameAt(bytes, at + (closes ? 2 : 1));
    const from = behindTag(bytes, at, end);
    at = from;
    if (standsAt(bytes, name, TABLE)) open = !closes;
    if (closes || !open || !standsAt(bytes, name, ITEM) || !endsName(bytes[name + 2]!)) continue;
    if (bytes[from - 2] === SLASH) {
      item(from, from);
      continue;
    }
    // An item holds no item, so the next tag of that name closes it.
    for (; ; at++) {
      while (at < end && bytes[at] !== LESS) at++;
      if (at >= end) throw new NotPlain();
      if (bytes[at + 1] === EXCLAMATION) throw new NotPlain();
      if (bytes[at + 1] !== SLASH) continue;
      const closing = nameAt(bytes, at + 2);
      if (standsAt(bytes, closing, ITEM) && endsName(bytes[closing + 2]!)) break;
    }
    item(from, at);
    at = behindTag(bytes, at, end);
  }
}

/** First letter of a tag's name behind its prefix. */
function nameAt(bytes: Uint8Array, from: number): number {
  for (let at = from; at < from + 20; at++) {
    const byte = bytes[at]!;
    if (byte === 58) return at + 1;
    if (endsName(byte) || byte === undefined) break;
  }
  return from;
}

/** First byte behind the tag that begins here. */
function behindTag(bytes: Uint8Array, from: number, end: number): number {
  let at = from;
  while (at < end && bytes[at] !== GREATER) at++;
  return at + 1;
}

function isText(bytes: Uint8Array, tag: number): boolean {
  const name = nameAt(bytes, tag + 1);
  return bytes[name] === 116 && endsName(bytes[name + 1]!);
}
