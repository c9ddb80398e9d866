import { afterAll, describe, expect, test } from 'vitest';
import { inputOf, READERS } from './inputs.ts';
import { readOne } from './one.ts';
import { Watch } from './watch.ts';

/** A few of each; `npm run fuzz` reads as many as asked. */
const INPUTS = 40;

describe('damaged, odd and hostile files', () => {
  const watch = new Watch();
  afterAll(() => watch.close());

  test.each(Object.keys(READERS))(
    '%s: a table or a sentence, in time and in little memory',
    { timeout: 120_000 },
    async (reader) => {
      const result = await watch.run(reader, 0, INPUTS);
      expect(result.wrong).toEqual([]);
      expect(result.tables + result.refused).toBe(INPUTS);
      // Not all of one kind: inputs that are all refused at the door test nothing behind it.
      expect(result.tables).toBeGreaterThan(0);
    },
  );

  test.each([
    // A failure that nobody waited for ended the whole process after these.
    ['pdf', 621],
    ['pdf', 9215],
    // Minutes went by over these: brackets that nothing closes, and thousands of faults.
    ['markdown', 1489],
    ['yaml', 9732],
    // Without end: a block that holds another message than the file says, and a list longer than the file.
    ['arrow', 86],
    ['arrow', 351],
  ])('%s %i is read or refused, and nothing is left behind', async (reader, number) => {
    const result = await watch.run(reader, number, number + 1);
    expect(result.wrong).toEqual([]);
    // A rejection that nobody hears of ends this test too.
    await readOne(reader, number);
  });

  test('the same number is the same input, and has the same outcome', async () => {
    for (const reader of ['delimited', 'xlsx', 'json']) {
      expect(inputOf(reader, 7).bytes).toEqual(inputOf(reader, 7).bytes);
      expect(await readOne(reader, 7)).toEqual(await readOne(reader, 7));
    }
  });
});
