/**
 * Reads many wrong, damaged and odd files, and says what went wrong.
 *
 *   npm run fuzz -- [--inputs N] [--from N] [READER ...]     all readers unless some are named
 *   npm run fuzz -- --again READER NUMBER                    one input once more, in this process; --save FILE keeps it
 */
import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { inputOf, READERS } from './inputs.ts';
import { readOne } from './one.ts';
import { type ReaderResult, Watch } from './watch.ts';

const { values, positionals } = parseArgs({
  options: {
    inputs: { type: 'string', default: '1000' },
    from: { type: 'string', default: '0' },
    again: { type: 'boolean', default: false },
    save: { type: 'string' },
    out: { type: 'string' },
  },
  allowPositionals: true,
});

function shown(result: ReaderResult): string {
  return `${result.reader.padEnd(16)} ${result.inputs} inputs: ${result.tables} tables, ${result.refused} refused, ${result.wrong.length} wrong; slowest ${(result.slowestMs / 1000).toFixed(1)} s, most ${Math.round(result.mostBytes / 1024 ** 2)} MiB`;
}

if (values.again) {
  const [reader, number] = [positionals[0]!, Number(positionals[1])];
  if (values.save !== undefined) writeFileSync(values.save, inputOf(reader, number).bytes);
  process.stdout.write(`${JSON.stringify(await readOne(reader, number), null, 2)}\n`);
} else {
  const unknown = positionals.find((name) => READERS[name] === undefined);
  if (unknown !== undefined) {
    process.stderr.write(`There is no reader ${unknown}. There are: ${Object.keys(READERS).join(', ')}.\n`);
    process.exit(2);
  }
  const from = Number(values.from);
  const results: ReaderResult[] = [];
  const watch = new Watch();
  for (const reader of positionals.length > 0 ? positionals : Object.keys(READERS)) {
    const result = await watch.run(reader, from, from + Number(values.inputs));
    results.push(result);
    process.stdout.write(`${shown(result)}\n`);
    for (const { number, as, text } of result.wrong.slice(0, 20))
      process.stdout.write(`  ${as} at ${number}: ${text.replaceAll('\n', '\n    ')}\n`);
  }
  watch.close();
  if (values.out !== undefined) writeFileSync(values.out, `${JSON.stringify(results, null, 2)}\n`);
  process.exit(results.some((result) => result.wrong.length > 0) ? 1 : 0);
}
