/** Pages of PDFs by two makers, ours and pdfkit, beside what pdftotext of Debian's poppler-utils reads of them. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import PDFDocument from 'pdfkit';
import { afterAll, describe, expect, test } from 'vitest';
import { crossings } from '../../../demo/crossings.ts';
import { type Print, pdfBytes } from '../../../demo/pdf-bytes.ts';
import { weighbridge } from '../../../demo/weighbridge.ts';
import { Runner } from '../../run/run.ts';
import { quiet } from '../../test-support.ts';
import { cellText } from '../../values/cell-text.ts';
import { bundleFiles } from '../archive.ts';
import { guessReading } from '../catalogue.ts';
import { openSource } from '../open-source.ts';
import { readFixedWidth } from '../read-fixed-width.ts';
import { linesOf, wordsText } from './page-lines.ts';
import { pagesOf } from './page-words.ts';
import { readPdf } from './read-pdf.ts';

type Doc = InstanceType<typeof PDFDocument>;

function made(
  draw: (doc: Doc) => void,
  options: ConstructorParameters<typeof PDFDocument>[0] = {},
): Promise<Uint8Array> {
  const doc = new PDFDocument({ size: 'A4', margin: 40, ...options });
  const pieces: Buffer[] = [];
  doc.on('data', (piece: Buffer) => pieces.push(piece));
  const done = new Promise<Uint8Array>((resolve) =>
    doc.on('end', () => resolve(new Uint8Array(Buffer.concat(pieces)))),
  );
  draw(doc);
  doc.end();
  return done;
}

async function read(bytes: Uint8Array, given?: object) {
  const source = { name: 'a.pdf', bytes };
  await openSource(bytes, 'a.pdf');
  const { params } = guessReading('s', source);
  const result = readPdf.read(source, readPdf.params.parse({ ...params, ...given }), quiet as never);
  const { table } = result;
  const rows = Array.from({ length: table.rows }, (_, r) => table.fields.map(({ column }) => cellText(column, r)));
  return { ...result, rows, params: params as { source: string; cuts: number[] } };
}

test('the share of the pages that is read is reported, in an archive too', async () => {
  const bytes = await made((doc) => {
    for (const text of ['one', 'two', 'three']) {
      if (text !== 'one') doc.addPage();
      doc.text(text);
    }
  });
  const told: number[] = [];
  await openSource(bytes, 'a.pdf', (done) => told.push(Math.round(done * 100)));
  await openSource(bundleFiles([{ name: 'b.pdf', bytes: bytes.slice() }]), 'all.zip', (done) =>
    told.push(Math.round(done * 100)),
  );
  // A copy of what is open already is not read again.
  expect(told).toEqual([33, 67, 100]);
  await openSource(gzipSync(await made((doc) => void doc.text('alone'))), 'c.pdf.gz', (done) => told.push(done));
  expect(told.at(-1)).toBe(1);
});

test('a raised footnote mark is part of its cell', async () => {
  const bytes = await made((doc) => {
    for (let r = 0; r < 12; r++) {
      const y = 60 + r * 18;
      doc.fontSize(11).text(`S${100 + r}`, 40, y, { lineBreak: false });
      const foot = String(300 + r * 7);
      doc.text(foot, 200, y, { lineBreak: false });
      if (r % 4 === 1) {
        const left = 200 + doc.widthOfString(foot) + 0.5;
        doc.fontSize(6).text('1)', left, y - 2, { lineBreak: false });
      }
      doc.fontSize(11).text('on time', 300, y, { lineBreak: false });
    }
  });
  const { rows } = await read(bytes);
  expect(rows.length).toBe(12);
  expect(rows.slice(0, 2)).toEqual([
    ['S100', '300', 'on time'],
    ['S101', '3071)', 'on time'],
  ]);
});

const SAILINGS = [
  ['Sailing', 'Ship', 'Remarks', 'Foot', 'Fares'],
  ...Array.from({ length: 90 }, (_, r) => [
    `S${1000 + r}`,
    ['Gannet', 'Little Tern', 'Storm Petrel'][r % 3]!,
    r % 9 === 4 ? 'Held for an hour by fog in the sound, then sailed with half of her vehicles' : 'on time',
    String((r * 37) % 900),
    ((r * 7919) % 10_000).toFixed(2),
  ]),
];
const LEFT = [40, 110, 200, 400, 470];
const WIDTH = [60, 80, 180, 50, 70];

/** The table above by pdfkit: figures at the right, remarks wrapped, the names of columns on each page. */
function drawSailings(doc: Doc, rows = SAILINGS): void {
  let y = 90;
  const put = (row: readonly string[]) => {
    const high = Math.max(...row.map((text, c) => doc.heightOfString(text, { width: WIDTH[c]! })));
    row.forEach((text, c) => {
      doc.text(text, LEFT[c]!, y, { width: WIDTH[c]!, align: c > 2 ? 'right' : 'left' });
    });
    y += high + 6;
  };
  const head = () => {
    doc.text('Skerrow Ferries, sailings', 40, 40, { lineBreak: false });
    doc.text(`Page ${doc.bufferedPageRange().count}`, 500, 40, { lineBreak: false });
    y = 70;
    put(rows[0]!);
  };
  doc.fontSize(9);
  head();
  for (const row of rows.slice(1)) {
    if (y > 740) {
      doc.addPage();
      head();
    }
    put(row);
  }
}

describe('a table over several pages', () => {
  test('its rows are those that were printed, wrapped cells joined, heads of pages set aside', async () => {
    const { rows, aside, report, places } = await read(await made((doc) => drawSailings(doc), { bufferPages: true }));
    const names = SAILINGS[0]!.join();
    expect(rows.filter((row) => row.join() !== names)).toEqual(SAILINGS.slice(1));
    expect(rows.filter((row) => row.join() === names).length).toBe(report.parts[0]!.print!.pages.length);
    expect(aside![0]!.rows.length).toBe(report.parts[0]!.print!.pages.length);
    // Each cell stands in the line that it begins in.
    const at = rows.findIndex((row) => row[0] === 'S1004');
    const line = places.cellRows![2]![at]!;
    expect(places.height![at]).toBe(2);
    expect(cellText(report.parts[0]!.columns[2]!, line)).toMatch(/^Held for an hour/);
    expect(cellText(report.parts[0]!.columns[2]!, line + 1)).toMatch(/vehicles$/);
  });

  test('without joining every line is a row; kept heads are rows too', async () => {
    const bytes = await made((doc) => drawSailings(doc), { bufferPages: true });
    const apart = await read(bytes, { join: false, frames: false });
    expect(apart.table.rows).toBe(apart.report.parts[0]!.rows);
    expect(apart.rows[0]!.join(' ')).toContain('Skerrow Ferries, sailings');
  });

  test('figures of another month in the same cuts read the same way', async () => {
    const first = await made((doc) => drawSailings(doc), { bufferPages: true });
    const { params } = await read(first);
    const later = SAILINGS.map((row, r) => (r === 0 ? row : [...row.slice(0, 3), String(r * 11), `${r}.00`]));
    const { rows } = await read(await made((doc) => drawSailings(doc, later), { bufferPages: true }), params);
    expect(rows.filter((row) => row[0] !== 'Sailing')).toEqual(later.slice(1));
  });

  test('some of the pages, by name', async () => {
    const bytes = await made((doc) => drawSailings(doc), { bufferPages: true });
    const some = await read(bytes, { pages: { by: 'names', names: ['Page 2'] } });
    expect(some.report.parts[0]!.print!.pages.map((page) => page.number)).toEqual([2]);
    await expect(read(bytes, { pages: { by: 'names', names: ['Page 9'] } })).rejects.toThrow(/has no page Page 9/);
  });
});

describe('a print-out on paper reads like its text', () => {
  const text = new TextDecoder('windows-1252').decode(weighbridge().bytes);
  const lines = text.split('\r\n').slice(0, 120);
  const bare = (row: readonly (string | null)[]) => row.map((cell) => cell?.replace(/\s+/g, ' ') ?? null);

  /** What the reading of fixed columns makes of the same lines, but for the blank ones. */
  function fixedRows() {
    const source = { name: 'a.prn', bytes: new TextEncoder().encode(lines.join('\n')) };
    const params = readFixedWidth.params.parse({ source: 's', cuts: [14, 22, 41, 61] });
    const { table } = readFixedWidth.read(source, params, quiet as never);
    return Array.from({ length: table.rows }, (_, r) =>
      bare(table.fields.map(({ column }) => cellText(column, r))),
    ).filter((row) => row.some((cell) => cell !== null));
  }
  const isData = (row: readonly (string | null)[]) => /^[A-Z]-\d{5}$/.test(row[0] ?? '');

  test('in letters of one width, by pdfkit', async () => {
    const bytes = await made((doc) => {
      doc.font('Courier').fontSize(8);
      lines.forEach((line, k) => {
        if (k % 60 === 0 && k > 0) doc.addPage();
        if (line.trim() !== '') doc.text(line, 40, 40 + (k % 60) * 12, { lineBreak: false });
      });
    });
    const { rows, params } = await read(bytes, { frames: false });
    expect(params.cuts).toHaveLength(4);
    expect(rows.filter(isData).map(bare)).toEqual(fixedRows().filter(isData));
    expect(rows.filter(isData).length).toBeGreaterThan(60);
  });

  test('in letters of all widths, each cell where its column begins, by a script', async () => {
    const starts = [0, 14, 22, 44, 62];
    const pages: Print[][] = [[], []];
    fixedRows()
      .filter(isData)
      .slice(0, 100)
      .forEach((row, k) => {
        row.forEach((cell, c) => {
          if (cell === null) return;
          const isFigure = c === 4;
          const x = 40 + starts[c]! * 6 + (isFigure ? 90 : 0);
          pages[Math.floor(k / 50)]!.push({ text: cell, x, y: 60 + (k % 50) * 14, size: 9, right: isFigure });
        });
      });
    const { rows } = await read(pdfBytes(pages.filter((page) => page.length > 0)));
    expect(rows.map(bare)).toEqual(fixedRows().filter(isData).slice(0, 100));
  });
});

describe('how a page stands', () => {
  test('a page turned by a quarter, and text that runs up a page, read like any', async () => {
    const plain = await read(await made((doc) => drawSailings(doc, SAILINGS.slice(0, 20)), { bufferPages: true }));
    const turned = await made(
      (doc) => {
        (doc.page.dictionary.data as Record<string, unknown>)['Rotate'] = 90;
        doc.rotate(-90, { origin: [0, 0] }).translate(-doc.page.height, 0);
        drawSailings(doc, SAILINGS.slice(0, 20));
      },
      { bufferPages: true },
    );
    expect((await read(turned)).rows).toEqual(plain.rows);
    const upward = await made(
      (doc) => {
        doc.rotate(-90, { origin: [0, 0] }).translate(-doc.page.height, 0);
        drawSailings(doc, SAILINGS.slice(0, 20));
      },
      { bufferPages: true },
    );
    expect((await read(upward)).rows).toEqual(plain.rows);
  });

  test('a mark across the page is left out, and told', async () => {
    const marked = await made(
      (doc) => {
        drawSailings(doc, SAILINGS.slice(0, 20));
        doc
          .rotate(45, { origin: [100, 100] })
          .fontSize(60)
          .text('COPY', 100, 100, { lineBreak: false });
      },
      { bufferPages: true },
    );
    const { rows, notices } = await read(marked);
    expect(rows.flat()).not.toContain('COPY');
    expect(notices.map((one) => one.text)).toContain('1 word that stand in another direction left out');
  });

  test('ligatures are the letters that they stand for', async () => {
    const page = Array.from({ length: 6 }, (_, r): Print[] => [
      { text: '\u0001nal of\u0001ce of \u0002oats', x: 40, y: 60 + r * 16, size: 10 },
      { text: String(r), x: 300, y: 60 + r * 16, size: 10 },
    ]).flat();
    const text = String.fromCharCode(...pdfBytes([page]));
    // Names of letters as the standard has them (ISO 32000-2, annex D).
    const bytes = Uint8Array.from(text.replace('/WinAnsiEncoding', '<< /Differences [1 /fi /fl] >>'), (letter) =>
      letter.charCodeAt(0),
    );
    const { rows } = await read(bytes);
    expect(rows[0]).toEqual(['final office of floats', '0']);
  });

  test('two tables side by side have the columns of both', async () => {
    const page: Print[] = [];
    for (let r = 0; r < 30; r++)
      for (const [k, left] of [40, 320].entries()) {
        const y = 60 + r * 14;
        page.push({ text: `S${k}${r}`, x: left, y, size: 9 });
        page.push({ text: 'Hask to Ullin', x: left + 60, y, size: 9 });
        page.push({ text: String(r * 31), x: left + 190, y, size: 9, right: true });
      }
    const { rows } = await read(pdfBytes([page]));
    expect(rows[3]).toEqual(['S03', 'Hask to Ullin', '93', 'S13', 'Hask to Ullin', '93']);
  });
});

describe('what cannot be read', () => {
  const failure = async (bytes: Uint8Array) => {
    try {
      return JSON.stringify((await read(bytes)).rows.length);
    } catch (error) {
      expect((error as Error).name).toBe('ReadFailure');
      return (error as Error).message;
    }
  };

  test('pages that are pictures say so, alone and among others', async () => {
    const draw = (doc: Doc) => doc.rect(40, 40, 200, 200).fill('#888888');
    expect(await failure(await made((doc) => void draw(doc)))).toMatch(/holds no text: its page is a picture/);
    const { notices } = await read(
      await made(
        (doc) => {
          drawSailings(doc, SAILINGS.slice(0, 20));
          doc.addPage();
          draw(doc);
        },
        { bufferPages: true },
      ),
    );
    expect(notices.map((one) => one.text)).toContain('no text on page 2: it is blank, or a picture');
  });

  test('one locked with a password is refused; one that only forbids printing is read', async () => {
    const locked = await made((doc) => drawSailings(doc), { bufferPages: true, userPassword: 'quay' });
    expect(await failure(locked)).toMatch(/is locked with a password/);
    const guarded = await made((doc) => drawSailings(doc), { bufferPages: true, ownerPassword: 'quay' });
    expect((await read(guarded)).table.rows).toBeGreaterThan(90);
  });

  test('damaged ones are read as far as they go, or refused with a reason', async () => {
    const { bytes } = crossings();
    expect(await failure(bytes.subarray(0, 40))).toMatch(/cannot be read|holds no text/);
    for (let seed = 1; seed < 25; seed++) {
      const broken = bytes.slice(0, seed % 3 === 0 ? Math.floor((bytes.length * seed) / 25) : bytes.length);
      for (let k = 0; k < 40; k++) broken[(k * 7919 * seed) % broken.length] = (k * seed) & 255;
      broken.set(new TextEncoder().encode('%PDF-1.7'));
      expect(await failure(broken)).not.toBe('');
    }
  });

  test('a source that was not opened says so', () => {
    const bytes = pdfBytes([[{ text: 'a', x: 9, y: 9, size: 9 }]]);
    expect(() => guessReading('s', { name: 'a.pdf', bytes })).toThrow(/has not been opened yet/);
  });
});

test('rows of a table that only differ in their numbers are no heads of pages', async () => {
  const page = (p: number): Print[] =>
    Array.from({ length: 12 }, (_, r) => [
      { text: `Berth ${p * 12 + r}`, x: 40, y: 60 + r * 15, size: 9 },
      { text: String((p + 3) * (r + 2) * 7), x: 300, y: 60 + r * 15, size: 9, right: true },
    ]).flat();
  const { rows, aside } = await read(pdfBytes([page(0), page(1), page(2)]));
  expect(rows).toHaveLength(36);
  expect(aside).toEqual([]);
});

test('five hundred pages, told of one by one', async () => {
  const page = (p: number): Print[] =>
    Array.from({ length: 40 }, (_, r) => [
      { text: `B${p * 40 + r}`, x: 40, y: 60 + r * 15, size: 9 },
      { text: String(r * 7), x: 300, y: 60 + r * 15, size: 9, right: true },
    ]).flat();
  const bytes = pdfBytes(Array.from({ length: 500 }, (_, p) => page(p)));
  const told: number[] = [];
  const pages = await pagesOf(bytes, 'a.pdf', (done) => told.push(done));
  expect(pages).toHaveLength(500);
  expect(told).toHaveLength(500);
  expect(told.at(-1)).toBe(1);
  const { rows } = await read(bytes);
  expect(rows).toHaveLength(20_000);
  expect(rows[19_999]).toEqual(['B19999', '273']);
});

test('pages in an archive are read like the archive, one file under the other', async () => {
  const files = [20_310_701, 20_310_801].map((seed, k) => ({
    name: `crossings-${k + 6}.pdf`,
    bytes: crossings({ seed }).bytes,
  }));
  const bytes = bundleFiles(files);
  const source = { name: 'all.zip', bytes };
  await openSource(bytes, source.name);
  const { kind, params } = guessReading('s', source);
  expect(kind).toBe('read-files');
  const runner = new Runner();
  runner.setSource('s', source);
  const run = runner.run([{ id: '1', kind, params }], quiet);
  expect(run.stop).toBeUndefined();
  expect(run.steps[0]!.table.rows).toBeGreaterThan(150);
});

describe('pdftotext -layout as second opinion', () => {
  const folder = mkdtempSync(join(tmpdir(), 'rimefield-pdf-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const there = (() => {
    try {
      execFileSync('pdftotext', ['-v'], { stdio: 'ignore' });
      return true;
    } catch {
      return false;
    }
  })();

  test.skipIf(!there)('the same words in the same lines', async () => {
    for (const bytes of [crossings().bytes, await made((doc) => drawSailings(doc), { bufferPages: true })]) {
      const file = join(folder, 'a.pdf');
      writeFileSync(file, bytes);
      const other = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' })
        .split(/[\n\f]/)
        .map((line) => line.trim().replace(/\s+/g, ' '))
        .filter((line) => line !== '');
      const own = (await pagesOf(bytes, 'a.pdf')).flatMap(linesOf).map((line) => wordsText(line.words));
      expect(own).toEqual(other);
    }
  });
});
