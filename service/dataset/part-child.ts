/** Makes parts of a data set in its own process. */
import { type DatasetSetup, PartRunner } from './run-part.ts';

let runner: PartRunner | undefined;

process.on('message', (asked: { setup: DatasetSetup } | { file: { name: string; path: string } }) => {
  if ('setup' in asked) {
    runner = new PartRunner(asked.setup);
    return;
  }
  void runner!.run(asked.file).then(
    (done) => process.send!({ done }),
    (error: Error) => process.send!({ why: error.message }),
  );
});
// Nobody waits for the parts any more.
process.on('disconnect', () => process.exit(0));
