import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { columnLength } from '../../table/column.ts';
import { spansOf } from '../../table/spanned-column.ts';
import { cellText } from '../../values/cell-text.ts';
import { readJson } from '../json-source.ts';
import { type NestedRows, nestedRows, pathNames } from '../nested-rows.ts';
import { rowsOfLines } from './rows-of-lines.ts';

const sourceOf = (text: string) => ({ name: 'a.ndjson', bytes: new TextEncoder().encode(text) });

/** All that is reported of rows, as plain values. */
function told({ rows, columns, childless, besides, met, positioned }: NestedRows) {
  return {
    rows,
    childless,
    besides: [...besides].sort(),
    met,
    positioned,
    columns: columns.map(({ name, level, builder }) => {
      const column = builder.finish(rows);
      const kinds = column.type === 'received' ? [...column.tags] : column.type;
      return { name, level, kinds, cells: Array.from({ length: columnLength(column) }, (_, r) => cellText(column, r)) };
    }),
  };
}

type BadLines = 'stop' | 'skip';

function isJson(line: string): boolean {
  try {
    readJson(sourceOf(line), 'stop');
    return true;
  } catch {
    return false;
  }
}

function plainWay(text: string, path = '$[*]', badLines: BadLines = 'stop') {
  try {
    const { root, notices } = readJson(sourceOf(text), badLines);
    return { ...told(nestedRows(sourceOf(text), root, pathNames(path)!, '; ')), notices };
  } catch (error) {
    return (error as Error).message;
  }
}

function fastWay(text: string, path = '$[*]', badLines: BadLines = 'stop') {
  try {
    const read = rowsOfLines(sourceOf(text), pathNames(path)!, '; ', badLines, () => undefined);
    return read && { ...told(read.found), notices: read.notices };
  } catch (error) {
    return (error as Error).message;
  }
}

function same(text: string, path?: string, badLines?: BadLines) {
  const fast = fastWay(text, path, badLines);
  expect(fast).toBeDefined();
  expect(fast).toEqual(plainWay(text, path, badLines));
  return fast;
}

describe('lines from bytes beside lines by the platform (RFC 8259)', () => {
  test('fields in any order, some not there, objects in objects, lists, escapes, exact numbers', () => {
    const lines = [
      '{"ref":"B1","port":"Hask","party":{"adults":2,"children":0},"fare":12.5,"paid":true}',
      '{"ref": "B2", "port": "Ullin", "party": {"adults": 1, "children": 3}, "fare": -0.25, "paid": false}',
      '{"port":"Hask","ref":"B3","fare":0,"party":{"children":1}}',
      '{"ref":"B4","port":null,"fare":1e3,"paid":null,"party":{}}',
      '{"ref":"B\\u00e9 \\"5\\"","port":"港","fare":12345678901234567890,"tags":["a","b",1]}',
      '{"ref":"","legs":[{"to":"Hask"},{"to":"Tarve"}],"fare":"free","party":{"adults":{"men":1}}}',
      '{"ref":7,"tags":[],"fare":0.1,"party":3}',
      '',
      '  {"ref":"last","fare":1.5}  ',
    ];
    const read = same(lines.join('\n')) as ReturnType<typeof told>;
    expect(read.rows).toBe(8);
    expect(same(lines.join('\r\n'))).toEqual(read);
    expect(same(`${lines.join('\n')}\n`)).toEqual(read);
  });

  test('names that stand twice, with the line of the first', () => {
    const notices = (
      same('{"a":1,"b":2}\n{"a":3,"b":4}\n{"a":"x","b":6,"a":null}\n{"b":1,"b":2}') as { notices: object[] }
    ).notices;
    expect(notices).toEqual([{ severity: 'warning', text: expect.stringContaining('the first is a on line 3') }]);
  });

  test('lines that are no JSON stop it, or are left out with nothing of them left', () => {
    const text = '{"a":1,"b":"x"}\n{"a":2,"b":"y"\n{"b":"z"}\nnonsense\n{"a":4}';
    expect(same(text)).toContain('Line 2 of a.ndjson is no JSON');
    const read = same(text, '$[*]', 'skip') as ReturnType<typeof told>;
    expect(read.columns.map(({ cells }) => cells)).toEqual([
      ['1', null, '4'],
      ['x', 'z', null],
    ]);
  });

  test('lists further down: lines are parsed one by one', () => {
    const lines = [
      '{"d":1,"s":[{"p":"Hask"},{"p":"Ullin","q":2}]}',
      '{"d":2,"s":[]}',
      '{"d":3}',
      '{"s":[{"p":"x"}],"d":4}',
    ];
    const read = same(lines.join('\n'), '$[*].s[*]') as ReturnType<typeof told>;
    expect(read).toMatchObject({ rows: 5, childless: [2, 3] });
  });

  test('what is no newline-delimited JSON of objects is not taken', () => {
    for (const text of ['[{"a":1},\n{"a":2}]', '{\n"a":1\n}', '{"a":1}', '[1]\n[2]', '<a>\n</a>', '{"a":1}\n\n ', ''])
      expect(fastWay(text)).toBeUndefined();
    expect(fastWay('{"a":1}\n{"a":2}', '$.a[*]')).toBeUndefined();
    // Half of a pair of surrogates has no separate bytes; what is too deep is reported by the plain way.
    expect(fastWay('{"a":"b"}\n{"a":"\\ud800"}')).toBeUndefined();
    expect(fastWay(`{"a":1}\n{"a":${'['.repeat(600)}${']'.repeat(600)}}`)).toBeUndefined();
  });

  test('texts stay bytes of the source until they are looked at', () => {
    const text = Array.from({ length: 100 }, (_, r) => `{"ref":"B${r}","fare":${r}}`).join('\n');
    const { found } = rowsOfLines(sourceOf(text), [''], '; ', 'stop', () => undefined)!;
    const [ref, fare] = found.columns.map(({ builder }) => builder.finish(found.rows));
    expect(ref!.type === 'text' && spansOf(ref!) !== undefined).toBe(true);
    expect(fare!.type).toBe('received');
  });

  const key = fc.constantFrom('ref', 'port', 'fare', 'é', 'a b', 'quo"te', '0', 'deep');
  const leaf = fc.oneof(
    fc.string({ unit: fc.constantFrom('a', 'é', '"', '\\', '\n', '港', '😀', ' ', '{', ',', ':') }),
    fc.double({ noNaN: true, noDefaultInfinity: true }),
    fc.integer(),
    fc.bigInt({ min: -(2n ** 70n), max: 2n ** 70n }).map((value) => `\u0000${value}`),
    fc.boolean(),
    fc.constant(null),
    fc.array(fc.oneof(fc.integer(), fc.constantFrom('x', 'y'), fc.constant(null)), { maxLength: 3 }),
    fc.array(fc.record({ q: fc.integer() }), { minLength: 1, maxLength: 2 }),
  );
  const inner = fc.dictionary(key, leaf, { maxKeys: 4, noNullPrototype: true });
  const line = fc.dictionary(key, fc.oneof({ weight: 4, arbitrary: leaf }, inner), {
    maxKeys: 6,
    noNullPrototype: true,
  });
  // Numbers of any length are written as they are.
  const written = (value: unknown) => JSON.stringify(value).replace(/"\\u0000(-?\d+)"/g, '$1');

  test('law: the same rows, cells and notices, whatever stands in the lines', () => {
    fc.assert(
      fc.property(
        fc.array(line, { minLength: 2, maxLength: 12 }),
        fc.constantFrom('\n', '\r\n', '\n\n'),
        (lines, end) => {
          const text = lines.map(written).join(end);
          const fast = fastWay(text);
          if (fast !== undefined) expect(fast).toEqual(plainWay(text));
        },
      ),
      { numRuns: 600 },
    );
  });

  // Of several faults in a line either may be named.
  const refusal = (told: unknown) =>
    typeof told === 'string' ? told.replace(/ is no JSON: .*/s, ' is no JSON') : told;

  test('law: the same where letters are missing, doubled or changed, as rows or as what is wrong', () => {
    const change = fc.record({
      at: fc.nat(),
      letter: fc.constantFrom('', '"', ',', '}', '{', ':', '0', '\n', ' ', '\\', 'e'),
    });
    fc.assert(
      fc.property(
        fc.array(line, { minLength: 2, maxLength: 6 }),
        fc.array(change, { minLength: 1, maxLength: 3 }),
        fc.constantFrom<BadLines>('stop', 'skip'),
        (lines, changes, badLines) => {
          let text = lines.map(written).join('\n');
          for (const { at, letter } of changes) {
            const place = at % (text.length + 1);
            text = text.slice(0, place) + letter + text.slice(place + (at % 2));
          }
          const fast = fastWay(text, '$[*]', badLines);
          if (fast === undefined) return;
          const bad = text.split('\n').flatMap((one, k) => (one.trim() === '' || isJson(one) ? [] : [k + 1]));
          if (badLines === 'stop' || bad.length === 0) expect(refusal(fast)).toEqual(refusal(plainWay(text)));
          else {
            // The plain way looks for quotes across all lines, so that a bad one confuses what it tells of the others.
            // As one list: a single line would be its own document.
            const good = plainWay(`[${text.split('\n').filter(isJson).join(',')}]`);
            expect({ ...(fast as object), notices: [] }).toEqual({ ...(good as object), notices: [] });
            const texts = (fast as { notices: { text: string }[] }).notices.map((one) => one.text).join();
            expect(texts).toContain(`left out as no JSON: ${bad.length === 1 ? 'line' : `line ${bad[0]}`}`);
          }
        },
      ),
      { numRuns: 1500 },
    );
  });
});
