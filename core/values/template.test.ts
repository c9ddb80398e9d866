import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { timeAt } from './log-time.ts';
import { compileTemplate } from './template.ts';

const pieces = (template: string, text: string) => compileTemplate(template).exec(text);

describe('templates', () => {
  test.each<[string, string, string[] | null]>([
    ['HU-{Number}/{Part}', 'HU-12/a/b', ['12', 'a/b']],
    ['{First} {Rest}', 'one   two three', ['one', 'two three']],
    ['{} min', '12  min', []],
    ['{Text} min', '12 min 5  min', ['12 min 5']],
    ['{A}: {B}', 'no colon', null],
    ['{Host:word} {Rest}', ' a', null],
    ['{Size:number} bytes', '1,204.5 bytes', ['1,204.5']],
    ['{Size:number} bytes', 'many bytes', null],
    ['{Time:time} {Text}', 'Jun  2 06:01:07 gate up', ['Jun  2 06:01:07', 'gate up']],
    ['[{Time:time}] {Text}', '[2031-06-02T06:01:07.123Z] up', ['2031-06-02T06:01:07.123Z', 'up']],
    ['{P:word}[{Pid:number}]: {Text}', 'a: b[x]: c[12]: d', null],
    ['{P:word}[{Pid:number}]: {Text}', 'gate[12]: a [13]: b', ['gate', '12', 'a [13]: b']],
    ['plain', 'plain', []],
    ['{Text}', 'two\nlines', ['two\nlines']],
  ])('%s takes %j apart', (template, text, wanted) => {
    expect(pieces(template, text)).toEqual(wanted);
  });

  test('a template that cannot match long runs of spaces ends at once', () => {
    const text = `1${' '.repeat(500_000)}x`;
    expect(pieces('{A} {B} {C} {D} {E}!', text)).toBe(null);
    expect(pieces('{A} , {B} ; {C}', `${text},${text}`)).toBe(null);
  });

  test('what was put together comes apart again', () => {
    const word = fc.stringMatching(/^[a-z0-9]{1,8}$/);
    fc.assert(
      fc.property(word, word, word, (a, b, c) => {
        expect(pieces('{A}-{B} ({C})', `${a}-${b}   (${c})`)).toEqual([a, b, c]);
      }),
    );
  });
});

describe('times as logs write them', () => {
  test.each([
    // ISO 8601 and RFC 3339 (5.8), RFC 3164 (4.1.2), RFC 9110 (5.6.7), asctime of ISO C (7.27.3.1).
    '1985-04-12T23:20:50.52Z',
    '1996-12-19T16:39:57-08:00',
    'Oct 11 22:14:15',
    'Sun, 06 Nov 1994 08:49:37 GMT',
    'Sun Nov  6 08:49:37 1994',
    // The rest is common practice.
    '10/Oct/2000:13:55:36 -0700',
    '2031/06/02 06:01:07',
    '02.06.2031 06:01:07',
    '06/02/2031 06:01:07 PM',
    '310602 06:01:07',
    '06:01:07.123',
    '1924905600.123',
  ])('%s', (text) => {
    expect(timeAt(text, 0)).toBe(text.length);
    expect(timeAt(`[${text}]`, 1)).toBe(text.length + 1);
  });

  test.each(['', '12', '1:2', '2031-06-02', 'Hask 06:01', '12345678901234', '06:01:071'])('%s is none', (text) => {
    expect(timeAt(text, 0)).toBe(-1);
  });
});
