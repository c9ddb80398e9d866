import { describe, expect, test } from 'vitest';
import { gateLog } from '../../demo/gate-log.ts';
import type { Json } from '../values/json.ts';
import { compileTemplate } from '../values/template.ts';
import { type Piece, templateOfPieces } from './line-pieces.ts';
import { outlineOf } from './outline.ts';

describe('outline', () => {
  // The store of RFC 9535, 1.5, with one book that lacks an isbn.
  const store: Json = {
    store: {
      book: [
        { category: 'reference', author: 'Nigel Rees', title: 'Sayings of the Century', price: 8.95 },
        { category: 'fiction', author: 'Evelyn Waugh', title: 'Sword of Honour', price: 12.99 },
        { category: 'fiction', title: 'Moby Dick', isbn: '0-553-21311-3', price: 8.99 },
        { category: 'fiction', title: 'The Lord of the Rings', isbn: '0-395-19395-8', price: 22.99 },
      ],
      bicycle: { color: 'red', price: 399 },
    },
  };

  test('lists every path with kind, share of items and an example', () => {
    const nodes = outlineOf(store);
    expect(nodes.map(({ path }) => path)).toEqual([
      '$.store',
      '$.store.book',
      '$.store.book[*].category',
      '$.store.book[*].author',
      '$.store.book[*].title',
      '$.store.book[*].price',
      '$.store.book[*].isbn',
      '$.store.bicycle',
      '$.store.bicycle.color',
      '$.store.bicycle.price',
    ]);
    expect(nodes[1]).toMatchObject({ kinds: ['list'], items: { least: 4, most: 4, all: 4, objects: true }, depth: 1 });
    expect(nodes[3]).toMatchObject({ kinds: ['text'], share: 0.5, example: 'Nigel Rees', depth: 2 });
    expect(nodes[6]).toMatchObject({ share: 0.5 });
    expect(nodes[9]).toMatchObject({ kinds: ['number'], share: 1, example: '399' });
  });

  test('a list at the root, lists of plain values, mixed kinds and values that serve as names', () => {
    const nodes = outlineOf([{ a: [1, 2] }, { a: 'x' }, { a: null }]);
    expect(nodes).toMatchObject([
      { path: '$', name: '', items: { all: 3, objects: true } },
      { path: '$[*].a', kinds: ['list', 'text', 'nothing'], share: 1, example: '[1,2]', items: { objects: false } },
    ]);
    const wide = Object.fromEntries(Array.from({ length: 5000 }, (_, k) => [`key${k}`, k]));
    expect(outlineOf(wide)).toHaveLength(2000);
  });
});

describe('a template out of named stretches of a line', () => {
  const { bytes } = gateLog();
  const lines = new TextDecoder().decode(bytes).split('\n');
  const sample = lines[0]!;
  const piece = (text: string, name: string): Piece => {
    const from = sample.indexOf(text);
    return { from, to: from + text.length, name };
  };
  const matched = (template: string) =>
    lines.filter((line) => line.trim() !== '' && compileTemplate(template).test(line)).length;
  const logged = lines.filter((line) => line.startsWith('[')).length;

  test('one named piece already reads every line of the kind; what differs is read over', () => {
    const time = /\d\d:\d\d:\d\d/.exec(sample)![0];
    const template = templateOfPieces(sample, [piece(time, 'Time')], lines);
    expect(template).toMatch(/^\[\{\} \{Time\}\] /);
    expect(matched(template)).toBe(logged);
  });

  test('more pieces leave fewer to read over, and a piece over another takes its place', () => {
    const time = /\d\d:\d\d:\d\d/.exec(sample)![0];
    const quoted = /"([^"]+)"/.exec(sample)![1]!;
    const stamp = /\[([^\]]+)\]/.exec(sample)![1]!;
    const template = templateOfPieces(
      sample,
      [piece(time, 'Time'), piece(quoted, 'Sailing'), piece(stamp, 'Stamp')],
      lines,
    );
    expect(template).toContain('[{Stamp}]');
    expect(template).toContain('"{Sailing}"');
    expect(template).not.toContain('{Time}');
    expect(matched(template)).toBe(logged);
  });
});
