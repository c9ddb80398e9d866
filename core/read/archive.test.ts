import zlib from 'node:zlib';
import { utils, write } from '@e965/xlsx';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { filesOf, guessReading, ReadFailure, Runner } from '../index.ts';
import { cellsOf, quiet } from '../test-support.ts';
import { archiveFiles, bundleFiles, checkedFiles, UnpackBudget, unpackAhead } from './archive.ts';
import { crc32 } from './crc32.ts';

const text = 'Port,Foot\nHask,12\nUllin,7\n';
const asText = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const filesIn = (bytes: Uint8Array) =>
  archiveFiles(bytes, 'a.zip').map(({ name, bytes: content }) => [name, asText(content)]);

/** Each archive that differs from this one in one bit. */
function* flipped(bytes: Uint8Array): Generator<Uint8Array> {
  const one = bytes.slice();
  for (let bit = 0; bit < bytes.length * 8; bit++) {
    one[bit >> 3]! ^= 1 << (bit & 7);
    yield one;
    one[bit >> 3]! ^= 1 << (bit & 7);
  }
}

describe('damage', () => {
  test('the check sum (CRC catalogue of G. Cook, CRC-32/ISO-HDLC: 123456789 gives cbf43926), as zlib has it', () => {
    expect(crc32(strToU8('123456789'))).toBe(0xcbf43926);
    for (const length of [0, 1, 7, 8, 9, 15, 16, 17, 1000, 131_071, 131_072, 131_073, 300_000]) {
      const bytes = Uint8Array.from({ length }, (_, k) => (k * 151) ^ (k >> 3));
      for (const kernelFrom of [0, Number.POSITIVE_INFINITY])
        expect(crc32(bytes, { kernelFrom })).toBe(zlib.crc32(bytes));
    }
  });

  test.each([0, 6] as const)('no flipped bit of an archive (level %d) gives another file', (level) => {
    const whole = zipSync({ 'a.csv': strToU8(text), 'b.csv': strToU8(text.repeat(3)) }, { level });
    const good = filesIn(whole);
    let refused = 0;
    for (const one of flipped(whole)) {
      let found: string[][] | undefined;
      try {
        found = filesIn(one);
      } catch (error) {
        expect(error).toBeInstanceOf(ReadFailure);
        refused++;
      }
      if (found !== undefined) expect(found).toEqual(good);
    }
    expect(refused).toBeGreaterThan(text.length * 8);
  });

  test('a flipped bit in the cells of a workbook is refused, and the part is named', () => {
    const sheet = utils.aoa_to_sheet([['Foot'], [1234]]);
    const book = { SheetNames: ['Hask'], Sheets: { Hask: sheet } };
    const whole = new Uint8Array(write(book, { type: 'buffer', bookType: 'xlsx' }) as Buffer);
    const at = asText(Uint8Array.from(whole, (byte) => byte & 0x7f)).indexOf('<v>1234');
    expect(at).toBeGreaterThan(0);
    whole[at + 3]! ^= 1;
    expect(() => guessReading('s', { name: 'a.xlsx', bytes: whole })).toThrow(
      /a\.xlsx is damaged or cut off: xl\/worksheets\/sheet1\.xml is not what the archive's check sum says/,
    );
  });

  test('two parts of one name in a workbook are refused; two files of one name are both read', () => {
    const twice = zipSync({ 'a.csv': strToU8(text), 'b.csv': strToU8(text) });
    for (let k = 0; k < twice.length; k++)
      if (asText(twice.subarray(k, k + 5)) === 'b.csv') twice[k] = 'a'.charCodeAt(0);
    expect(filesIn(twice).map(([name]) => name)).toEqual(['a.csv', 'a 2.csv']);
    expect(() => checkedFiles(twice, 'a.xlsx')).toThrow(/two entries named a\.csv/);
  });

  test('a file called __proto__ is a file like others', () => {
    const bytes = zipSync({ _________: strToU8(text), 'b.csv': strToU8('x') });
    for (let k = 0; k < bytes.length; k++)
      if (asText(bytes.subarray(k, k + 9)) === '_________') bytes.set(strToU8('__proto__'), k);
    expect(filesIn(bytes)).toEqual([
      ['__proto__', text],
      ['b.csv', 'x'],
    ]);
    const again = bundleFiles(archiveFiles(bytes, 'a.zip'));
    expect(filesIn(again).map(([, content]) => content)).toEqual([text, 'x']);
  });

  test('Zip64, as programs write it that do not know the size beforehand, is read (APPNOTE 4.3.14 and 4.5.3)', () => {
    const plain = zipSync({ 'a.csv': strToU8(text) }, { level: 0 });
    const view = new DataView(plain.buffer);
    const end = plain.length - 22;
    const from = view.getUint32(end + 16, true);
    const nameEnd = from + 46 + 5;
    // A directory entry with its sizes in the extra field, then the wide end record and its locator.
    const entry = plain.slice(from, nameEnd + 20);
    const wide = new DataView(entry.buffer);
    wide.setUint16(30, 20, true);
    wide.setUint32(20, 0xffffffff, true);
    wide.setUint32(24, 0xffffffff, true);
    wide.setUint16(51, 1, true);
    wide.setUint16(53, 16, true);
    wide.setBigUint64(55, BigInt(text.length), true);
    wide.setBigUint64(63, BigInt(text.length), true);
    const record = new DataView(new ArrayBuffer(56 + 20));
    record.setUint32(0, 0x06064b50, true);
    record.setBigUint64(4, 44n, true);
    record.setBigUint64(24, 1n, true);
    record.setBigUint64(32, 1n, true);
    record.setBigUint64(40, BigInt(entry.length), true);
    record.setBigUint64(48, BigInt(from), true);
    record.setUint32(56, 0x07064b50, true);
    record.setBigUint64(64, BigInt(from + entry.length), true);
    record.setUint32(72, 1, true);
    const last = plain.slice(end);
    new DataView(last.buffer).setUint32(16, 0xffffffff, true);
    const whole = Uint8Array.of(...plain.subarray(0, from), ...entry, ...new Uint8Array(record.buffer), ...last);
    expect(filesIn(whole)).toEqual([['a.csv', text]]);
  });
});

describe('room', () => {
  const zeros = zipSync({ 'a.csv': new Uint8Array(40_000_000) }, { level: 1 });

  test('an archive in an archive shares its room', () => {
    const outer = zipSync({ 'a.zip': zeros, 'b.zip': zeros, 'c.zip': zeros });
    const inner = filesOf({ name: 'outer.zip', bytes: outer, room: new UnpackBudget(100_000_000) });
    expect(inner.slice(0, 2).map((file) => filesOf(file)[0]!.bytes.length)).toEqual([40_000_000, 40_000_000]);
    expect(() => filesOf(inner[2]!)).toThrow(/c\.zip would unpack to 40 MB, where there is room for 20 MB/);
  });

  test('one that says less than it holds is refused with no more room than it says', () => {
    const lying = zeros.slice();
    const view = new DataView(lying.buffer);
    for (let k = 0; k < lying.length - 4; k++)
      if (view.getUint32(k, true) === 0x02014b50) view.setUint32(k + 24, 1000, true);
    expect(() => archiveFiles(lying, 'a.zip')).toThrow(/a\.csv is not what the archive's check sum says/);
  });

  test('entries that lie over each other are refused', () => {
    const noise = Uint8Array.from({ length: 20_000 }, (_, k) => (k * k * 31) >> 3);
    const whole = zipSync({ 'a.csv': noise });
    const from = new DataView(whole.buffer).getUint32(whole.length - 6, true);
    const entry = whole.subarray(from, whole.length - 22);
    const times = 50;
    const directory = Uint8Array.from({ length: entry.length * times }, (_, k) => entry[k % entry.length]!);
    const end = whole.slice(whole.length - 22);
    const tail = new DataView(end.buffer);
    tail.setUint16(10, times, true);
    tail.setUint32(12, directory.length, true);
    expect(() => archiveFiles(Uint8Array.of(...whole.subarray(0, from), ...directory, ...end), 'a.zip')).toThrow(
      /its entries overlap/,
    );
  });

  test('reading a source again takes no room again', () => {
    const source = { name: 'a.zip', bytes: zipSync({ 'a.csv': strToU8(text) }) };
    const runner = new Runner();
    runner.setSource('s', source);
    const steps = [{ id: 'a', ...guessReading('s', source) }];
    for (let k = 0; k < 3; k++) expect(cellsOf(runner.run(steps, quiet).steps[0]!.table)[1]).toContain('Hask');
    expect(Object.keys(unzipSync(source.bytes))).toEqual(['a.csv']);
  });
});

describe('what the platform unpacks ahead', () => {
  const content = Uint8Array.from({ length: 900_000 }, (_, k) => (k * 7919) >> (k % 11));
  const others = { 'b.csv': strToU8(text), 'c.csv': content.subarray(0, 400_000) };
  const whole = zipSync({ 'a.csv': content, ...others });

  test('gives the same files, each time they are read', async () => {
    const bytes = whole.slice();
    await unpackAhead(bytes, 'a.zip');
    const files = () => archiveFiles(bytes, 'a.zip').map(({ bytes: of }) => Buffer.from(of));
    const expected = [content, strToU8(text), content.subarray(0, 400_000)].map((of) => Buffer.from(of));
    for (let k = 0; k < 2; k++) {
      expect(files().map((of, n) => of.equals(expected[n]!))).toEqual([true, true, true]);
    }
  });

  test('damage is reported by whoever reads it, as without', async () => {
    for (const at of [60, 2000, Math.floor(whole.length / 2)]) {
      const bytes = whole.slice();
      bytes[at]! ^= 0x55;
      await unpackAhead(bytes, 'a.zip');
      expect(() => archiveFiles(bytes, 'a.zip')).toThrow(/a\.zip is damaged or cut off: (?:a|c)\.csv/);
    }
    const cut = whole.subarray(0, 5000);
    await unpackAhead(cut, 'a.zip');
    expect(() => archiveFiles(cut, 'a.zip')).toThrow(/as when the end is cut off/);
  });

  test('an entry that holds more than it says takes no more room than that', async () => {
    const lying = zipSync({ 'a.csv': new Uint8Array(40_000_000) }, { level: 1 });
    const view = new DataView(lying.buffer);
    for (let k = 0; k < lying.length - 4; k++)
      if (view.getUint32(k, true) === 0x02014b50) view.setUint32(k + 24, 300_000, true);
    await unpackAhead(lying, 'a.zip');
    expect(() => archiveFiles(lying, 'a.zip')).toThrow(/is not what the archive's check sum says/);
  });
});
