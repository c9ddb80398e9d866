/** Mail (RFC 5322 with MIME): its attachments, and the tables in its text. */

import { type ArchiveFile, freeEntryName } from './archive.ts';
import { decodeDeclared } from './mail-charset.ts';
import { ReadFailure } from './read-failure.ts';

/** Fields that a message begins with; no other text has two of them in its first lines. */
const FIELDS =
  /^(?:from|to|cc|subject|date|received|return-path|delivered-to|message-id|mime-version|content-type|content-transfer-encoding|reply-to|x-[\w-]+|dkim-signature|authentication-results|arc-[\w-]+|user-agent|thread-[\w-]+|in-reply-to|references|importance|sender):/i;
const MIN_FIELDS = 3;

/** Whether a text is a message: it begins with fields of mail, and with nothing else. @param head its first lines */
export function isMail(head: string): boolean {
  const lines = head.split(/\r?\n/);
  const end = lines.indexOf('');
  // A line that begins with a blank goes on with the field above it.
  const fields = (end < 0 ? lines.slice(0, -1) : lines.slice(0, end)).filter((line) => !/^[ \t]/.test(line));
  const known = fields.filter((line) => FIELDS.test(line)).length;
  const isOnly = fields.every((line) => /^[!-9;-~]+:/.test(line) || /^From \S+/.test(line));
  return (
    known >= MIN_FIELDS && isOnly && fields.some((line) => /^(?:from|mime-version|message-id|received):/i.test(line))
  );
}

const MAX_ATTACHED = 1000;
/** Pictures, signatures, invitations and cards. */
const NO_REPORTS = /^(?:image|audio|video)\/|signature|^text\/(?:calendar|x?-?vcard)/i;

/**
 * The files in a message: what is attached, and its own text where that holds a table or nothing is attached.
 * @throws ReadFailure
 */
export async function filesOfMail(bytes: Uint8Array, file: string): Promise<ArchiveFile[]> {
  const { default: PostalMime } = await import('postal-mime');
  const reader = new PostalMime({ maxNestingDepth: 50 });
  decodeDeclared(reader);
  const mail = await reader.parse(bytes).catch((error: Error) => {
    throw new ReadFailure(file, `${file} is a mail message that cannot be read: ${error.message.replace(/\.$/, '')}.`);
  });
  const attached = mail.attachments.filter((one) => !one.related && !NO_REPORTS.test(one.mimeType));
  if (attached.length > MAX_ATTACHED)
    throw new ReadFailure(file, `${file} has more than ${MAX_ATTACHED} attachments. Save those that are wanted.`);
  const files: ArchiveFile[] = [];
  const taken = new Set<string>();
  const add = (name: string, content: Uint8Array) => {
    files.push({ name: freeEntryName(name, taken), bytes: content });
  };
  for (const { filename, content } of attached)
    add(filename?.replace(/[/\\]/g, '_') || 'attachment', contentBytes(content));
  const { html, text } = mail;
  if (html !== undefined && /<table\b/i.test(html)) add('message.html', new TextEncoder().encode(asPage(html)));
  else if (files.length === 0 && (text ?? html ?? '').trim() !== '')
    add(text === undefined ? 'message.html' : 'message.txt', new TextEncoder().encode(text ?? asPage(html!)));
  if (files.length === 0) throw new ReadFailure(file, `${file} is a mail message with nothing attached and no text.`);
  return files;
}

function contentBytes(content: ArrayBuffer | Uint8Array | string): Uint8Array {
  if (typeof content === 'string') return new TextEncoder().encode(content);
  return content instanceof Uint8Array ? content : new Uint8Array(content);
}

/** It was decoded: what it says about its encoding no longer holds. */
function asPage(html: string): string {
  const body = html.replace(/<meta\b[^>]*charset[^>]*>/gi, '');
  return /<html\b/i.test(body) ? body : `<html><body>${body}</body></html>`;
}
