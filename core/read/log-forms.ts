/** How the lines of a log are built: its templates, guessed from what stands at the front of its lines. */
import { timeAt } from '../values/log-time.ts';
import { compileTemplate } from '../values/template.ts';

/** Lines that are looked at. */
const LOOKED_AT = 400;
const MAX_ELEMENTS = 14;
const MAX_TEMPLATES = 6;
/** Share of a log's lines whose front is that of a log. */
export const LOG_SHARE = 0.6;

const LEVELS =
  'TRACE|DEBUG|INFO|INFORMATION|NOTICE|WARN|WARNING|ERR|ERROR|FATAL|CRIT|CRITICAL|SEVERE|ALERT|EMERG|PANIC|LOG|HINT|DETAIL|STATEMENT';
const LEVEL = new RegExp(`(?:${LEVELS})(?=[\\s:\\]>,|]|$)`, 'iy');
const BRACKET_LEVEL = new RegExp(`\\[(?:[\\w-]{0,30}:)?(?:${LEVELS})\\]`, 'iy');
const PROCESS = /[^\s[\]:="'<>(),;]+\[\d+\]:?(?=\s|$)/y;
const NAME = /[A-Za-z][^\s[\]:="'<>,;]{0,40}:(?=\s)/y;
const WORD = /[^\s[\]"=]+(?=\s)/y;
const ADDRESS = /(?:\d{1,3}(?:\.\d{1,3}){3}|[0-9a-fA-F]*:[0-9a-fA-F:.]*:[0-9a-fA-F]+)(?=\s)/y;
const KEYED_BRACKET = /\[([A-Za-z_]+) ([^\][]{1,80})\]/y;
const BRACKET = /\[([^\][]{0,80})\]/y;
/** Seconds since the start of the machine, as kernels write them. */
const UPTIME = /^ *\d+\.\d{3,9}$/;
const SYSLOG = /^(?:<\d+>)?\p{Lu}\p{Ll}{2,3}\.? {1,2}\d{1,2} \d\d:/u;
const PAIR = /([A-Za-z_][\w.-]{0,40})=(?:"[^"]*"|'[^']*'|[^\s"',;]*)(?=[\s,;]|$)/y;
const NUMBER = /[+-]?\d+(?:[.,]\d+)*(?=\s|$)/y;
const QUOTED = /"[^"]*"/y;
const THREAD = /\d+#\d+:/y;
/** Stands between two elements, with the space behind it. */
const BETWEEN = /(?:[:,|;-]|\s+[:|-](?=\s))?\s+/y;

/** One thing at the front of a line: the stretch of template that reads it, which also tells it from others. */
interface Element {
  piece: string;
  to: number;
  /** Times, processes and addresses make a log; other things may stand in any line. */
  head: boolean;
}

function matchAt(pattern: RegExp, line: string, at: number): RegExpExecArray | null {
  pattern.lastIndex = at;
  return pattern.exec(line);
}

/** What a line is built of, from the left, as far as it is known. */
function elementsOf(line: string): Element[] {
  return serverElements(line) ?? logElements(line);
}

/** The common and combined log format of web servers (the NCSA server, from the documentation of the Apache server). */
function serverElements(line: string): Element[] | undefined {
  const front = /^\S+ \S+ \S+ \[/.exec(line);
  const end = front === null ? -1 : timeAt(line, front[0].length);
  if (end < 0 || line[end] !== ']') return undefined;
  const elements: Element[] = [
    { piece: '{Host:word} {Ident:word} {User:word} [{Time:time}]', to: end + 1, head: true },
  ];
  const rest: [RegExp, string][] = [
    [QUOTED, '"{Request}"'],
    [NUMBER, '{Status:number}'],
    [WORD_OR_END, '{Size:word}'],
    [QUOTED, '"{Referer}"'],
    [QUOTED, '"{Agent}"'],
  ];
  let at = end + 1;
  for (const [pattern, piece] of rest) {
    const gap = matchAt(/ +/y, line, at);
    const match = gap === null ? null : matchAt(pattern, line, at + gap[0].length);
    if (match === null) break;
    elements.at(-1)!.piece += ' ';
    at += gap![0].length + match[0].length;
    elements.push({ piece, to: at, head: true });
  }
  if (line.slice(at).trim() !== '') elements.at(-1)!.piece += ' ';
  return elements;
}
const WORD_OR_END = /[^\s"]+(?=\s|$)/y;

function logElements(line: string): Element[] {
  const elements: Element[] = [];
  const used = new Set<string>();
  let at = line.length - line.trimStart().length;
  if (at > 0) return [];
  const priority = /^<(?:\d{1,3}|[A-Z]{1,3})>(?:1 )?/.exec(line);
  if (priority !== null) {
    elements.push({
      piece: priority[0].endsWith(' ') ? '<{Priority:word}>1 ' : '<{Priority:word}>',
      to: 0,
      head: true,
    });
    at = priority[0].length;
  }
  while (elements.length < MAX_ELEMENTS && at < line.length) {
    const found = elementAt(line, at, used);
    if (found === undefined) break;
    const gap = matchAt(BETWEEN, line, found.to);
    if (gap === null && found.to < line.length && !found.piece.endsWith(']')) break;
    for (const name of namesIn(found.piece)) used.add(name);
    at = found.to + (gap?.[0].length ?? 0);
    elements.push({ ...found, piece: found.piece + (gap?.[0].replace(/\s+/g, ' ') ?? ''), to: at });
  }
  return elements;
}

function namesIn(piece: string): string[] {
  return [...piece.matchAll(/\{([^:}]*)/g)].map((match) => match[1]!);
}

function elementAt(line: string, at: number, used: ReadonlySet<string>): Element | undefined {
  const make = (piece: string, length: number, head: boolean): Element => ({ piece, to: at + length, head });
  const free = (name: string) => !used.has(name);
  if (free('Time')) {
    const bracketed = line[at] === '[' ? 1 : 0;
    const end = timeAt(line, at + bracketed);
    if (end >= 0 && (bracketed === 0 || line[end] === ']'))
      return make(bracketed === 1 ? '[{Time:time}]' : '{Time:time}', end + bracketed - at, true);
  }
  if (free('Level')) {
    const level = matchAt(LEVEL, line, at);
    if (level !== null) return make('{Level:word}', level[0].length, false);
    const bracketed = matchAt(BRACKET_LEVEL, line, at);
    if (bracketed !== null) return make('[{Level:word}]', bracketed[0].length, true);
  }
  const keyed = matchAt(KEYED_BRACKET, line, at);
  if (keyed !== null && free(titled(keyed[1]!)) && !/\d/.test(keyed[1]!))
    return make(`[${keyed[1]} {${titled(keyed[1]!)}}]`, keyed[0].length, true);
  const bracket = matchAt(BRACKET, line, at);
  if (bracket !== null && at === 0 && UPTIME.test(bracket[1]!)) return make('[{Time}]', bracket[0].length, true);
  if (bracket !== null && free('Pid') && /^\d+$/.test(bracket[1]!))
    return make('[{Pid:number}]', bracket[0].length, true);
  if (bracket !== null) {
    const name = ['Tag', 'Tag 2', 'Tag 3'].find(free);
    return name === undefined ? undefined : make(`[{${name}}]`, bracket[0].length, true);
  }
  if (free('Pid')) {
    const process = matchAt(PROCESS, line, at);
    if (process !== null) {
      const colon = process[0].endsWith(':') ? ':' : '';
      return make(`{Process:word}[{Pid:number}]${colon}`, process[0].length, true);
    }
    const thread = matchAt(THREAD, line, at);
    if (thread !== null) return make('{Pid:number}#{Thread:number}:', thread[0].length, true);
  }
  const pair = matchAt(PAIR, line, at);
  if (pair !== null && free(pair[1]!)) {
    const quote = /["']$/.exec(pair[0])?.[0] ?? '';
    return make(`${pair[1]}=${quote}{${pair[1]}${quote === '' ? ':word' : ''}}${quote}`, pair[0].length, false);
  }
  if (used.has('Process') || used.has('Message')) return undefined;
  if (free('Client')) {
    const address = matchAt(ADDRESS, line, at);
    if (address !== null) return make('{Client:word}', address[0].length, true);
  }
  if (used.has('Host') || used.has('Time')) {
    const name = matchAt(NAME, line, at);
    if (name !== null && free('Process')) return make('{Process:word}:', name[0].length, used.has('Host'));
  }
  // A word is a host where a process follows it, as in syslog.
  if (free('Host')) {
    const word = matchAt(WORD, line, at);
    if (word === null) return undefined;
    const next = at + word[0].length + 1;
    // A name in front of the time, with the message after a colon.
    if (at === 0 && free('Time') && timeAt(line, next) > next + 9) return make('{Host:word}', word[0].length, true);
    // Without a number behind it only syslog tells a process from the first words of a message.
    const behind = matchAt(PROCESS, line, next) ?? (SYSLOG.test(line) ? matchAt(NAME, line, next) : null);
    if (behind !== null && line[next] !== ' ') return make('{Host:word}', word[0].length, true);
  }
  return undefined;
}

function titled(word: string): string {
  return word[0]!.toUpperCase() + word.slice(1);
}

/** Lines that may be of a log: filled, not set in (those go on with the line above), no comments. */
function ownLines(lines: readonly string[]): string[] {
  return lines.filter((line) => /^\S/.test(line) && !/^#/.test(line)).slice(0, LOOKED_AT);
}

/** Share of the lines that begin like those of a log. */
export function logShare(lines: readonly string[]): number {
  const own = ownLines(lines);
  const fronts = own.filter((line) => isFront(elementsOf(line)));
  return own.length === 0 ? 0 : fronts.length / own.length;
}

function isFront(elements: readonly Element[]): boolean {
  const pieces = elements.map((element) => element.piece);
  const timed = pieces.findIndex((piece) => /\{Time[:}]/.test(piece));
  if (timed >= 0 && timed <= 2) return true;
  if (pieces.some((piece) => piece.startsWith('{Process:word}[{Pid'))) return true;
  return pieces.filter((piece) => /^[\w.-]+=/.test(piece)).length >= 2;
}

interface Node {
  lines: number;
  /** Lines of which nothing more is known here, with text behind it. */
  open: number;
  /** Lines that end here. */
  ended: number;
  head: boolean;
  children: Map<string, Node>;
}

const newNode = (head: boolean): Node => ({ lines: 0, open: 0, ended: 0, head, children: new Map() });

/** Templates for the lines, the most telling first; '{Text}' where nothing is known of them. */
export function guessTemplates(lines: readonly string[]): string[] {
  const own = ownLines(lines);
  const root = newNode(true);
  for (const line of own) {
    const elements = elementsOf(line);
    let node = root;
    node.lines++;
    for (const { piece, head } of elements) {
      const child = node.children.get(piece) ?? newNode(head);
      node.children.set(piece, child);
      node = child;
      node.lines++;
    }
    if (line.slice(elements.at(-1)?.to ?? 0).trim() === '') node.ended++;
    else node.open++;
  }
  const found: { template: string; lines: number }[] = [];
  collect(root, '', own.length, found);
  const templates = found
    .sort((a, b) => b.lines - a.lines)
    .slice(0, MAX_TEMPLATES)
    .map(({ template }) => template);
  // A template with more pieces is tried before one that would take its lines too.
  templates.sort((a, b) => pieces(b) - pieces(a));
  const used = withLines(templates, own);
  if (used.length > 0) return used;
  return [plainTemplate(own) ?? '{Text}'];
}

/** The templates that are the first to match some of the lines. */
function withLines(templates: readonly string[], lines: readonly string[]): string[] {
  const compiled = templates.map((template) => compileTemplate(template));
  const first = new Set(lines.map((line) => compiled.findIndex((one) => one.test(line.trimEnd()))));
  return templates.filter((_, k) => first.has(k));
}

function pieces(template: string): number {
  return template.split('{').length;
}

/** Goes down where most lines go, or where enough of them do at the front; what is not followed further is the message. */
function collect(node: Node, template: string, all: number, found: { template: string; lines: number }[]): void {
  const often = (child: Node) => child.head && child.lines >= Math.max(2, all * 0.04);
  const followed = [...node.children].filter(([, child]) => child.lines >= node.lines * 0.6 || often(child));
  for (const [piece, child] of followed) collect(child, template + piece, all, found);
  if (template === '') return;
  const on = followed.reduce((sum, [, child]) => sum + child.lines, 0);
  const open = node.lines - on - node.ended;
  if (open > 0 && open >= all * 0.005) found.push({ template: `${template}{Message}`, lines: open });
  if (node.ended > 0) found.push({ template: template.trimEnd(), lines: node.ended });
}

/** Lines of one name and one value, or of two words. */
function plainTemplate(lines: readonly string[]): string | undefined {
  const share = (pattern: RegExp) => lines.filter((line) => pattern.test(line)).length >= lines.length * 0.8;
  if (lines.length === 0) return undefined;
  return share(/^[^:]{1,60}:\s+\S/) ? '{Name}: {Value}' : undefined;
}
