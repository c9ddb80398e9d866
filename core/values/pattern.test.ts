import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Pattern } from './pattern.ts';

/** Long enough that every pattern with two repetitions goes to the engine that does not backtrack. */
const LONG = ' '.repeat(60_000);

describe('patterns in bounded time', () => {
  // Patterns that make engines which backtrack never end (OWASP, Regular expression Denial of Service).
  test.each(['^(a+)+$', '^(a|aa)+$', '^(a|a?)+$', '^([a-zA-Z]+)*$', '(.*a){12}$'])(
    '%s ends on a long text',
    (source) => {
      const pattern = new Pattern(source);
      expect(pattern.test(`${'a'.repeat(50_000)}!`)).toBe(false);
      expect(pattern.test('a'.repeat(40))).toBe(true);
    },
  );

  test('runs of spaces that lead nowhere end', () => {
    expect(new Pattern('\\s+$').test(`${LONG}x`)).toBe(false);
    expect(new Pattern('\\s*,\\s*;').exec(`${LONG}x`)).toBe(null);
    expect(new Pattern('\\s+x').replace(`${LONG}x${LONG}y`, '')).toBe(`${LONG}y`);
  });

  test('a pattern that looks ahead is matched up to a length, and refused beyond it with the reason', () => {
    const pattern = new Pattern('(\\d+)(?= EUR)\\s+');
    expect(pattern.exec('12 EUR')?.groups[0]).toBe('12 ');
    expect(new Pattern('(\\d+)(?= EUR)').exec('12 EUR')?.groups[1]).toBe('12');
    expect(() => pattern.test(`${'1'.repeat(30_000)}`)).toThrow(/looks ahead or back.*30,000 characters/);
    expect(() => new Pattern('((a+)+)(?=b)')).toThrow(/might never end/);
  });

  test('a pattern that cannot be read says so', () => {
    expect(() => new Pattern('(')).toThrow(/The pattern \( cannot be used/);
  });
});

/** Both engines give the same of the same text: padding makes the text too long for the first, and matches nothing. */
describe('both engines agree', () => {
  const patterns = [
    '(\\d+)-(\\d+)',
    '(?<year>\\d{4})\\s*(?<rest>[^\\s]*)',
    '^\\s*(\\w+)\\s+(\\w*)',
    '([A-Z]+)|(\\d+?)(x*)',
    '[\\s,;]+([^,;]*)',
    '\\b(\\w+)\\W+',
    '.+?é.*',
    '\\p{Lu}+\\s*\\P{Lu}*',
    'a{2,3}b*c*',
    '[^\\d]+\\d*',
  ];
  const piece = fc.constantFrom(
    'a',
    'aa',
    'B',
    '12',
    '2031',
    '-',
    ' ',
    '\u00a0',
    ',',
    ';',
    'é',
    'x',
    '\n',
    '_',
    'ß',
    '😀',
  );
  test.each(patterns)('%s', (source) => {
    const pattern = new Pattern(source);
    const native = new RegExp(source, 'u');
    const everywhere = new RegExp(source, 'gu');
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
        const text = pieces.join('');
        const linear = (pattern as unknown as { linear(text: string): never }).linear.bind(pattern);
        const forced = Object.assign(Object.create(Pattern.prototype), pattern, { longest: -1, linear }) as Pattern;
        const match = native.exec(text);
        expect(forced.exec(text)?.groups ?? null).toEqual(match === null ? null : [...match]);
        expect(forced.replace(text, '[$1|$&]')).toBe(text.replace(everywhere, '[$1|$&]'));
      }),
    );
  });
});
