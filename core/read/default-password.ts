import { CFB } from '@e965/xlsx';
import { cbc, ecb } from '@noble/ciphers/aes';
import { md5, sha1 } from '@noble/hashes/legacy';
import { sha256, sha384, sha512 } from '@noble/hashes/sha2';
import { concatBytes } from '@noble/hashes/utils';
import { BOOK_STREAMS, isCompoundFile, recordsOf } from './compound-file.ts';

/**
 * Workbooks that are encrypted under the password that spreadsheet programs try before they ask anybody: they are
 * written so when only their structure is protected. After MS-OFFCRYPTO 2.3.4 (standard and agile encryption), 2.3.5
 * (RC4 CryptoAPI) and 2.3.6 (RC4), and MS-XLS 2.2.10 (what of a workbook stream is encrypted).
 */

const PASSWORD = 'VelvetSweatshop';

type Bytes = Uint8Array<ArrayBuffer>;
type Hash = (data: Uint8Array) => Uint8Array;

const HASHES: Record<string, Hash> = { SHA1: sha1, SHA256: sha256, SHA384: sha384, SHA512: sha512 };

/** Agile encryption says how often a hash is repeated; programs write 100,000. */
const MAX_SPIN = 1_000_000;

/**
 * The workbook without its encryption, or undefined when it has none, or has another password, or is encrypted in a
 * way that is not known here.
 */
export function withoutDefaultPassword(bytes: Uint8Array): Bytes | undefined {
  if (!isCompoundFile(bytes)) return undefined;
  try {
    const container = CFB.read(bytes, { type: 'array' });
    const stream = (name: string) => {
      const entry = CFB.find(container, name);
      return entry === null ? undefined : Uint8Array.from(entry.content as ArrayLike<number>);
    };
    const info = stream('EncryptionInfo');
    const packed = stream('EncryptedPackage');
    if (info !== undefined && packed !== undefined) return unpacked(info, packed);
    const name = BOOK_STREAMS.find((one) => stream(one) !== undefined);
    const open = name === undefined ? undefined : openBook(stream(name)!);
    if (name === undefined || open === undefined) return undefined;
    CFB.find(container, name)!.content = open as never;
    return Uint8Array.from(CFB.write(container, { type: 'array' }) as ArrayLike<number>);
  } catch {
    // Damaged: the reader of workbooks says where.
    return undefined;
  }
}

function unpacked(info: Bytes, packed: Bytes): Bytes | undefined {
  const major = view(info).getUint16(0, true);
  const minor = view(info).getUint16(2, true);
  const decrypt = major === 4 && minor === 4 ? agileCipher(info) : minor === 2 ? standardCipher(info) : undefined;
  if (decrypt === undefined) return undefined;
  const size = Number(view(packed).getBigUint64(0, true));
  return decrypt(packed.subarray(8)).slice(0, size);
}

type Decrypt = (data: Bytes) => Bytes;

/** MS-OFFCRYPTO 2.3.4.5 to 2.3.4.9. */
function standardCipher(info: Bytes): Decrypt | undefined {
  const { keyBits, salt, verifier, verifierHash } = cryptoHeader(info.subarray(4));
  let hash = sha1(concatBytes(salt, utf16(PASSWORD)));
  for (let k = 0; k < 50_000; k++) hash = sha1(concatBytes(uint32(k), hash));
  hash = sha1(concatBytes(hash, uint32(0)));
  const derived = (fill: number) => {
    const block = new Uint8Array(64).fill(fill);
    for (const [k, byte] of hash.entries()) block[k]! ^= byte;
    return sha1(block);
  };
  const key = concatBytes(derived(0x36), derived(0x5c)).slice(0, keyBits / 8);
  const decrypt: Decrypt = (data) => ecb(key, { disablePadding: true }).decrypt(whole(data, 16)) as Bytes;
  return same(sha1(decrypt(verifier)), decrypt(verifierHash).subarray(0, 20)) ? decrypt : undefined;
}

/** MS-OFFCRYPTO 2.3.4.10 to 2.3.4.15. */
function agileCipher(info: Bytes): Decrypt | undefined {
  const xml = new TextDecoder().decode(info.subarray(8));
  const data = attributesOf(xml, 'keyData');
  const own = attributesOf(xml, 'encryptedKey');
  const hash = HASHES[own.hashAlgorithm!]!;
  const salt = base64(own.saltValue!);
  const spins = Number(own.spinCount);
  if (!(spins <= MAX_SPIN) || own.cipherChaining !== 'ChainingModeCBC' || data.cipherChaining !== 'ChainingModeCBC') {
    return undefined;
  }
  let spun = hash(concatBytes(salt, utf16(PASSWORD)));
  for (let k = 0; k < spins; k++) spun = hash(concatBytes(uint32(k), spun));
  const unlocked = (purpose: string, text: string) => {
    const key = sized(hash(concatBytes(spun, hex(purpose))), Number(own.keyBits) / 8);
    return cbc(key, sized(salt, Number(own.blockSize)), { disablePadding: true }).decrypt(base64(text));
  };
  const given = hash(unlocked('fea7d2763b4b9e79', own.encryptedVerifierHashInput!).slice(0, Number(own.saltSize)));
  const expected = unlocked('d7aa0f6d3061344e', own.encryptedVerifierHashValue!);
  if (!same(given, expected.subarray(0, given.length))) return undefined;
  const key = unlocked('146e0be7abacd0d6', own.encryptedKeyValue!).slice(0, Number(data.keyBits) / 8);
  const dataHash = HASHES[data.hashAlgorithm!]!;
  const dataSalt = base64(data.saltValue!);
  return (packed) => {
    const open = new Uint8Array(packed.length + 16);
    for (let at = 0, k = 0; at < packed.length; at += 4096, k++) {
      const iv = sized(dataHash(concatBytes(dataSalt, uint32(k))), Number(data.blockSize));
      open.set(cbc(key, iv, { disablePadding: true }).decrypt(whole(packed.subarray(at, at + 4096), 16)), at);
    }
    return open;
  };
}

/** Records of a workbook stream that are never encrypted (MS-XLS 2.2.10): BOF, FilePass, UsrExcl, FileLock, InterfaceHdr, RRDInfo, RRDHead. */
const PLAIN = new Set([0x809, 0x2f, 0x194, 0x195, 0xe1, 0x196, 0x138]);
const FILE_PASS = 0x2f;
const BOUND_SHEET = 0x85;
/** Excel9File, which says nothing. */
const IGNORED = 0x1c0;
const BLOCK = 1024;

/** The stream of an older workbook, its records where they were; undefined without encryption or under another password. */
function openBook(stream: Bytes): Bytes | undefined {
  const pass = firstOf(stream, FILE_PASS);
  if (pass === undefined) return undefined;
  const given = stream.subarray(pass.at, pass.at + pass.length);
  const open = stream.slice();
  view(open).setUint16(pass.at - 4, IGNORED, true);
  // Where a sheet begins in the stream stays plain.
  const locked = [...recordsOf(stream)]
    .filter(({ type }) => !PLAIN.has(type))
    .map(({ type, at, length }) => ({ from: type === BOUND_SHEET ? at + 4 : at, at, to: at + length }));
  const mask = obfuscation(given);
  if (mask !== undefined) {
    for (const { from, at, to } of locked)
      for (let k = from; k < to; k++) open[k] = turned(open[k]! ^ mask[(k + to - at) % 16]!);
    return open;
  }
  const keyOf = blockKey(given);
  if (keyOf === undefined) return undefined;
  let block = -1;
  let key: Bytes = new Uint8Array(0);
  const decipher = (from: number, to: number) => {
    for (let at = from; at < to; at++) {
      if (Math.floor(at / BLOCK) !== block) {
        block = Math.floor(at / BLOCK);
        key = rc4(keyOf(block), new Uint8Array(BLOCK));
      }
      open[at]! ^= key[at % BLOCK]!;
    }
  };
  for (const { from, to } of locked) decipher(from, to);
  return open;
}

/** Records at the front of a workbook among which its password stands. */
const MAX_FRONT = 8;

function firstOf(stream: Bytes, wanted: number) {
  let left = MAX_FRONT;
  for (const record of recordsOf(stream)) {
    if (record.type === wanted) return record;
    if (--left === 0) return undefined;
  }
  return undefined;
}

/** Bits turned to the right by five, as obfuscation turns them. */
const turned = (byte: number) => ((byte >> 5) | (byte << 3)) & 255;

/**
 * The sixteen bytes that obfuscated records are mixed with (MS-OFFCRYPTO 2.3.7.1 to 2.3.7.3), from the key in a FilePass
 * record of its older form or with the type 0; undefined for other encryption or another password.
 */
function obfuscation(pass: Bytes): Bytes | undefined {
  const at = pass.length === 4 ? 0 : pass.length === 6 && view(pass).getUint16(0, true) === 0 ? 2 : -1;
  if (at < 0) return undefined;
  const [key, verifier] = [view(pass).getUint16(at, true), view(pass).getUint16(at + 2, true)];
  const letters = Array.from(PASSWORD, (letter) => letter.charCodeAt(0));
  const expected = [letters.length, ...letters].reduceRight(
    (sum, byte) => (((sum >> 14) & 1) | ((sum << 1) & 0x7fff)) ^ byte,
    0,
  );
  if ((expected ^ 0xce4b) !== verifier) return undefined;
  // A password of fifteen letters leaves one byte to fill.
  return Uint8Array.from([...letters, 0xbb], (byte, k) => {
    const mixed = byte ^ (k % 2 === 1 ? key >> 8 : key & 255);
    return ((mixed >> 1) | (mixed << 7)) & 255;
  });
}

/** The key of each block of 1,024 bytes, from what a FilePass record holds. */
function blockKey(pass: Bytes): ((block: number) => Bytes) | undefined {
  const info = pass.subarray(2);
  if (view(pass).getUint16(0, true) !== 1) return undefined;
  if (view(info).getUint16(2, true) === 1) {
    const [salt, verifier, verifierHash] = [4, 20, 36].map((at) => info.slice(at, at + 16));
    const start = md5(utf16(PASSWORD)).slice(0, 5);
    const mixed = md5(concatBytes(...Array.from({ length: 16 }, () => [start, salt!]).flat())).slice(0, 5);
    const keyOf = (block: number) => md5(concatBytes(mixed, uint32(block))) as Bytes;
    const open = rc4(keyOf(0), concatBytes(verifier!, verifierHash!));
    return same(md5(open.slice(0, 16)), open.subarray(16)) ? keyOf : undefined;
  }
  const { keyBits, salt, verifier, verifierHash } = cryptoHeader(info.subarray(4));
  const start = sha1(concatBytes(salt, utf16(PASSWORD)));
  const keyOf = (block: number) => {
    const key = sha1(concatBytes(start, uint32(block))).slice(0, keyBits / 8);
    return (keyBits === 40 ? sized(key, 16, 0) : key) as Bytes;
  };
  const open = rc4(keyOf(0), concatBytes(verifier, verifierHash.subarray(0, 20)));
  return same(sha1(open.slice(0, 16)), open.subarray(16)) ? keyOf : undefined;
}

/** Flags, size of the header, header (MS-OFFCRYPTO 2.3.2) and verifier (2.3.3). */
function cryptoHeader(bytes: Bytes) {
  const size = view(bytes).getUint32(4, true);
  const keyBits = view(bytes).getUint32(8 + 16, true) || 40;
  const at = 8 + size + 4;
  return {
    keyBits,
    salt: bytes.slice(at, at + 16),
    verifier: bytes.slice(at + 16, at + 32),
    verifierHash: bytes.slice(at + 36, at + 68),
  };
}

/** RC4, as RFC 6229 tests it: no library in use here has it. */
export function rc4(key: Uint8Array, data: Uint8Array): Bytes {
  const state = Uint8Array.from({ length: 256 }, (_, k) => k);
  const swap = (a: number, b: number) => {
    [state[a], state[b]] = [state[b]!, state[a]!];
  };
  for (let i = 0, j = 0; i < 256; i++) {
    j = (j + state[i]! + key[i % key.length]!) & 255;
    swap(i, j);
  }
  let i = 0;
  let j = 0;
  return Uint8Array.from(data, (byte) => {
    i = (i + 1) & 255;
    j = (j + state[i]!) & 255;
    swap(i, j);
    return byte ^ state[(state[i]! + state[j]!) & 255]!;
  });
}

function attributesOf(xml: string, element: string): Record<string, string> {
  const tag = new RegExp(`<(?:\\w+:)?${element}\\b[^>]*>`).exec(xml)?.[0] ?? '';
  return Object.fromEntries([...tag.matchAll(/(\w+)="([^"]*)"/g)].map(([, name, value]) => [name!, value!]));
}

const view = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
const hex = (text: string) => Uint8Array.from(text.match(/../g)!, (pair) => Number.parseInt(pair, 16));
const base64 = (text: string) => Uint8Array.from(atob(text), (character) => character.charCodeAt(0));
const same = (a: Uint8Array, b: Uint8Array) => a.length === b.length && a.every((byte, k) => byte === b[k]);
/** As many whole blocks as there are: a file that was cut off has a part of one more. */
const whole = (data: Bytes, block: number) => data.subarray(0, data.length - (data.length % block));

function uint32(value: number): Uint8Array {
  const bytes = new Uint8Array(4);
  view(bytes).setUint32(0, value, true);
  return bytes;
}

function utf16(text: string): Uint8Array {
  return Uint8Array.from({ length: 2 * text.length }, (_, k) => (text.charCodeAt(k >> 1) >> (8 * (k & 1))) & 255);
}

/** Cut, or filled up. */
function sized(bytes: Uint8Array, length: number, fill = 0x36): Uint8Array {
  const result = new Uint8Array(length).fill(fill);
  result.set(bytes.subarray(0, length));
  return result;
}
